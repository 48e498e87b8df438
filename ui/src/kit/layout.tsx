import { type ReactNode, useRef, useState } from "react";
import type { Quantity } from "../api/client";
import { Figure } from "./Figure";
import { copied, tableText } from "./pasteCells";

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

/** Heads of a table of figures: the first column is a name, the others stand right. */
export function Heads({ names }: { names: readonly string[] }) {
  return (
    <tr className="border-b border-hair text-[12px] text-ink2">
      {names.map((name, place) => (
        <th
          key={name}
          scope="col"
          className={`px-1.5 font-normal ${place === 0 ? "text-left" : "text-right"}`}
        >
          {name}
        </th>
      ))}
    </tr>
  );
}

/** A big figure with what it is under it. */
export function BigFigure(props: { of: Quantity | undefined; label: string; rough?: boolean }) {
  const { of, label, rough = false } = props;
  return (
    <div className="min-w-0">
      <Figure of={of} size="big" label={label} rough={rough} />
      <p className="text-[12px] text-ink2">{label}</p>
    </div>
  );
}

/** Something wider than a phone: it scrolls sideways, by keyboard too; a table in it can be copied to a spreadsheet. */
export function Wide(props: { label: string; picture?: boolean; children: ReactNode }) {
  const { label, picture = false, children } = props;
  const box = useRef<HTMLElement>(null);
  const [isCopied, setCopied] = useState(false);
  const copy = async () => {
    const tables = [...(box.current?.querySelectorAll("table") ?? [])];
    setCopied(await copied(tables.map(tableText).join("\n\n")));
  };
  return (
    <div className="relative">
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: without it the keyboard cannot scroll it */}
      <section ref={box} className="overflow-x-auto" aria-label={label} tabIndex={0}>
        {children}
      </section>
      {!picture && (
        <p className="mt-1 text-right text-[12px] print:hidden">
          <button
            type="button"
            className="min-h-6 px-1 text-act hover:underline"
            onClick={() => void copy()}
            onBlur={() => setCopied(false)}
          >
            {isCopied ? "Copied" : "Copy the table"}
            <span className="sr-only">, {label}</span>
          </button>
        </p>
      )}
    </div>
  );
}
