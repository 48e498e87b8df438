import { useHotkeys } from "react-hotkeys-hook";
import { useOverlay } from "./overlay";

/** A key that rests while someone types in a field or an overlay is open. */
export function useKey(keys: string, run: (event: KeyboardEvent) => void, on: unknown[] = []): void {
  const covered = useOverlay((overlay) => overlay.which !== undefined);
  useHotkeys(
    keys,
    (event) => {
      event.preventDefault();
      run(event);
    },
    { enabled: !covered, useKey: true },
    [...on, covered],
  );
}

/** The keys every page has: the palette and the list of keys. */
export function useCommonKeys(): void {
  const show = useOverlay((overlay) => overlay.show);
  useKey("/", () => show("palette"));
  useKey("shift+?", () => show("keys"));
}
