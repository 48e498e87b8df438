import { useEffect, useRef } from "react";
import type { QuantityInput } from "../api/client";
import { useAttention } from "../kit/attention";
import { useDesk, useFigure } from "../kit/context";
import { useShown } from "../kit/fields";
import { withoutValue } from "../kit/units";

const ORIGIN: Record<QuantityInput["origin"], string> = {
  measured: "measured",
  label: "from the label",
  stated: "typed by you",
  default: "our guess",
  table: "from a table",
  computed: "calculated",
};
const MARK: Record<string, string> = { P: "published", C: "common practice", M: "from memory" };

function SourceLine({ id }: { id: string }) {
  const { view } = useDesk();
  const source = view.report.sources[id];
  if (!source?.title) return null;
  const mark = MARK[source.mark];
  return (
    <>
      {source.title}
      {mark && !source.title.toLowerCase().includes(mark) && ` (${mark})`}
    </>
  );
}

function InputRow({ item }: { item: QuantityInput }) {
  const into = useAttention((attention) => attention.into);
  const show = useShown();
  const value = item.value === null ? withoutValue(item.unit) : show(item.value, item.unit);
  return (
    <li className="border-b border-hair2 py-1.5">
      <div className="flex items-baseline justify-between gap-2">
        <span>
          <span className="font-mono text-[12px]">{item.symbol}</span>{" "}
          <span className="text-ink2">{item.label}</span>
        </span>
        {item.ref ? (
          <button
            type="button"
            className="figure whitespace-nowrap"
            aria-label={`${item.label}: ${value}. Show working`}
            onClick={() => into(item.ref)}
          >
            {value}
          </button>
        ) : (
          <span className="whitespace-nowrap">{value}</span>
        )}
      </div>
      {!item.ref && (
        <p className={`text-[11px] ${item.origin === "default" ? "text-fix" : "text-ink2"}`}>
          {ORIGIN[item.origin]}
          {item.source && ": "}
          {item.source && <SourceLine id={item.source} />}
        </p>
      )}
    </li>
  );
}

/** How a figure came about: formula, words, inputs, source; each computed input can be walked into. */
export function WorkingPanel() {
  const figure = useFigure();
  const show = useShown();
  const { trail, back, from } = useAttention();
  const key = trail.at(-1);
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    if (key) heading.current?.focus({ preventScroll: true });
  }, [key]);
  const quantity = figure(key);
  if (!quantity) {
    return (
      <p className="py-3 text-ink2">
        Click an underlined figure, or select it and press w. You then see here how it is calculated: the
        formula, every number in it, and where each number comes from.
      </p>
    );
  }
  return (
    <section
      aria-label="How this figure is calculated"
      className="py-3"
      onKeyDown={(event) => event.key === "Escape" && from?.isConnected && from.focus()}
    >
      {trail.length > 1 && (
        <button type="button" className="mb-2 text-[12px] text-act hover:underline" onClick={back}>
          ← {figure(trail.at(-2))?.label}
        </button>
      )}
      <h2 ref={heading} tabIndex={-1} className="text-[13px]">
        {quantity.label}
      </h2>
      <p className="text-[24px] font-[640]">
        {quantity.value === null ? withoutValue(quantity.unit) : show(quantity.value, quantity.unit)}
      </p>
      {quantity.note && <p className="text-[12px] text-fix">{quantity.note}</p>}
      <p className="my-2 rounded bg-sheet px-2 py-1.5 font-mono text-[12px] break-words">
        {quantity.formula}
      </p>
      <p className="first-letter:uppercase">{quantity.words}.</p>
      <ul aria-label="Inputs" className="mt-2">
        {quantity.inputs.map((item, index) => (
          <InputRow key={`${item.symbol} ${item.label} ${index}`} item={item} />
        ))}
      </ul>
      <p className="mt-2 text-[12px] text-ink2">
        <SourceLine id={quantity.source} />
      </p>
    </section>
  );
}
