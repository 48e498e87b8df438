import type { Quantity } from "../api/client";
import { useAttention } from "./attention";
import { useUnits } from "./settings";
import { roughly, shown, withoutValue } from "./units";

type Props = {
  of: Quantity | undefined;
  size?: "plain" | "big";
  unit?: boolean;
  label?: string;
  /** The words beside it say which way it goes. */
  unsigned?: boolean;
  /** So many decimals, for a column of like figures. */
  digits?: number;
  /** A guess: two figures that matter, so that it looks no surer than it is; its working has the rest. */
  rough?: boolean;
};

/** A computed figure: press it, or focus it and press w, and its working opens in the margin. */
export function Figure({
  of,
  size = "plain",
  unit = true,
  label,
  unsigned = false,
  digits,
  rough = false,
}: Props) {
  const ask = useAttention((attention) => attention.ask);
  const units = useUnits();
  if (!of) return <span className="text-ink2">–</span>;
  const written = (value: number) => {
    const size = unsigned ? Math.abs(value) : value;
    return rough ? roughly(size) : size;
  };
  const text =
    of.value === null
      ? { number: withoutValue(of.unit), unit: "" }
      : shown(written(of.value), of.unit, units);
  if (digits !== undefined && of.value !== null) text.number = of.value.toFixed(digits).replace("-", "−");
  const name = label ?? of.label;
  return (
    <button
      type="button"
      className={`figure whitespace-nowrap ${size === "big" ? "text-[28px] leading-8 font-[640]" : ""}`}
      data-figure={of.key}
      aria-label={`${name}: ${of.value === null ? `${text.number}, ${of.note}` : `${text.number} ${text.unit}`}. Show working`}
      onClick={() => ask(of.key)}
    >
      {text.number}
      {unit && text.unit && (
        <span className={size === "big" ? "text-[15px] font-normal" : ""}>
          {text.unit === "%" ? "\u2009%" : `\u2009${text.unit}`}
        </span>
      )}
    </button>
  );
}
