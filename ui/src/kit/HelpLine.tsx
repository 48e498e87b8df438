import { useEffect, useState } from "react";

type Told = { label: string; help: string };

function toldOf(target: EventTarget | null): Told | undefined {
  if (
    !(
      target instanceof HTMLInputElement ||
      target instanceof HTMLSelectElement ||
      target instanceof HTMLTextAreaElement
    )
  )
    return undefined;
  const { help } = target.dataset;
  const label = target.getAttribute("aria-label") ?? target.labels?.[0]?.textContent?.trim() ?? "";
  return help ? { label, help } : undefined;
}

/** What the field one stands in wants, at the foot of the sheet. A screen reader hears it from the field itself. */
export function HelpLine() {
  const [told, setTold] = useState<Told>();
  useEffect(() => {
    const come = (event: FocusEvent) => setTold(toldOf(event.target));
    const go = (event: FocusEvent) => event.relatedTarget === null && setTold(undefined);
    document.addEventListener("focusin", come);
    document.addEventListener("focusout", go);
    return () => {
      document.removeEventListener("focusin", come);
      document.removeEventListener("focusout", go);
    };
  }, []);
  if (!told) return null;
  return (
    <p
      aria-hidden="true"
      className="pointer-events-none sticky -bottom-3 z-10 -mx-4 mt-3 border-t border-hair bg-sheet px-4 py-1.5 text-[12px] text-ink2 max-md:-bottom-10.5 sm:-mx-5 sm:px-5 print:hidden"
    >
      <b className="font-[640] text-ink">{told.label}</b> {told.help}
    </p>
  );
}
