import type { ReactNode } from "react";
import type { Quantity } from "../api/client";
import { Figure } from "./Figure";

/** A titled part of a sheet. */
export function Part({ title, note, children }: { title: string; note?: ReactNode; children: ReactNode }) {
  return (
    <section className="mb-6" aria-label={title}>
      <div className="mb-2 border-b border-hair pb-1">
        <h2 className="inline text-[14px]">{title}</h2>
        {note && <span className="ml-3 text-ink2">{note}</span>}
      </div>
      {children}
    </section>
  );
}

/** A big figure with what it is under it. */
export function BigFigure({ of, label }: { of: Quantity | undefined; label: string }) {
  return (
    <div className="min-w-0">
      <Figure of={of} size="big" label={label} />
      <p className="text-[12px] text-ink2">{label}</p>
    </div>
  );
}

/** Something wider than a phone: it scrolls sideways, by keyboard too. */
export function Wide({ label, children }: { label: string; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: without it the keyboard cannot scroll it
    <section className="overflow-x-auto" aria-label={label} tabIndex={0}>
      {children}
    </section>
  );
}
