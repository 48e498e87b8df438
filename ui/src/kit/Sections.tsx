import { type KeyboardEvent, type ReactNode, useState } from "react";
import { useSearchParams } from "react-router";

export type Section = { id: string; name: string; page: ReactNode };
type Props = {
  /** What is divided: the step. */
  label: string;
  sections: readonly (Section | false | null | undefined)[];
  /** Drawn only once looked at, and kept from then on: where it is costly. */
  lazy?: boolean;
};

/** The parts of a sheet behind tabs that stay in sight; each has an address, and all of them are printed. */
export function Sections({ label, sections, lazy = false }: Props) {
  const [params, setParams] = useSearchParams();
  const shown = sections.filter((section) => !!section);
  const asked = params.get("page");
  const open = shown.find((section) => section.id === asked)?.id ?? shown[0]?.id ?? "";
  const [seen, setSeen] = useState([open]);
  const choose = (id: string) => {
    setParams({ page: id }, { replace: true });
    setSeen((before) => (before.includes(id) ? before : [...before, id]));
  };
  const walk = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (!step) return;
    const index = shown.findIndex((section) => section.id === open);
    const next = shown[(index + step + shown.length) % shown.length];
    if (!next) return;
    choose(next.id);
    document.getElementById(`tab-${next.id}`)?.focus();
  };
  return (
    <>
      <div
        role="tablist"
        aria-label={label}
        className="no-print sticky -top-3 z-10 -mx-4 mb-4 flex gap-x-5 overflow-x-auto border-b border-hair bg-sheet px-4 pt-1 sm:-mx-5 sm:px-5"
        onKeyDown={walk}
      >
        {shown.map(({ id, name }) => (
          <button
            key={id}
            id={`tab-${id}`}
            type="button"
            role="tab"
            aria-selected={id === open}
            aria-controls={`page-${id}`}
            tabIndex={id === open ? 0 : -1}
            className={`-mb-px shrink-0 border-b-2 pt-1 pb-1.5 whitespace-nowrap ${id === open ? "border-act font-[640] text-act" : "border-transparent text-ink2 hover:text-ink"}`}
            onClick={() => choose(id)}
          >
            {name}
          </button>
        ))}
      </div>
      {shown.map(({ id, page }) => (
        <div
          key={id}
          id={`page-${id}`}
          role="tabpanel"
          aria-labelledby={`tab-${id}`}
          className={id === open ? "" : `hidden ${lazy ? "" : "print:block"}`}
        >
          {(!lazy || seen.includes(id) || id === open) && page}
        </div>
      ))}
    </>
  );
}

/** Bring what lies behind another tab, or is folded in, to where it can be seen. */
export function reveal(element: Element): void {
  const panel = element.closest("[role=tabpanel].hidden");
  const tab = panel && document.getElementById(panel.getAttribute("aria-labelledby") ?? "");
  tab?.click();
  for (let node = element.closest("details"); node; node = node.parentElement?.closest("details") ?? null)
    node.open = true;
}
