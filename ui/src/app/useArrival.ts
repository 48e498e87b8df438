import { type RefObject, useEffect, useLayoutEffect, useRef } from "react";

/** What arriving at a step does: the page is named after it, begins at its top, and the reader stands there. */
export function useArrival(sheet: RefObject<HTMLElement | null>, step: string, title: string): void {
  const first = useRef(true);
  useEffect(() => {
    document.title = title;
  }, [title]);
  // With the step itself, not after it: whoever goes on to a field of it must not be called back.
  useLayoutEffect(() => {
    if (first.current) {
      first.current = false;
      return;
    }
    if (window.location.hash) return;
    sheet.current?.scrollTo({ top: 0 });
    sheet.current?.focus({ preventScroll: true });
  }, [step]);
}
