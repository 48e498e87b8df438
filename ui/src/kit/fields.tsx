import { type FocusEvent, type KeyboardEvent, type ReactNode, useId } from "react";
import type { Basis, Bound, Choice } from "../api/client";
import type { Path } from "../api/edits";
import { useField } from "./context";
import { useUnits } from "./settings";
import { type Dimension, fieldText, fieldUnit, readQuantity, shown, type UnitChoice } from "./units";
import { useDraft } from "./useDraft";
import { useHelp } from "./useHelp";

type Known = { value: number; basis?: Basis };
type Common = { label: string; path: Path; bare?: boolean; hint?: ReactNode };
type NumberProps = Common & {
  dimension: Dimension;
  known?: boolean;
  /** Takes an empty field as “not given”; `fallback` is then what counts, shown in its place. */
  optional?: boolean;
  fallback?: number | null;
  /** Volts the amps are at, so that watts can be typed too. */
  atVolts?: number;
  /** Shows nothing for zero, where zero means “does not apply”. */
  blankZero?: boolean;
};

const BASIS: [Basis, string][] = [
  ["measured", "measured"],
  ["label", "from the label"],
  ["stated", "typed in"],
  ["default", "our guess"],
];

function onKeys(event: KeyboardEvent<HTMLInputElement>, commit: () => void, revert: () => void) {
  if (event.key === "Enter") commit();
  if (event.key === "Escape") {
    revert();
    event.stopPropagation();
  }
}

/** A label, the control, and what is wrong with it; in a table only the control. */
function Framed(props: {
  id: string;
  label: string;
  bare?: boolean;
  error?: string;
  hint?: ReactNode;
  children: ReactNode;
}) {
  const fault = props.error && (
    <p id={`${props.id}-error`} role="alert" className="mt-0.5 text-[12px] text-stop">
      {props.error}
    </p>
  );
  if (props.bare) {
    return (
      <>
        {props.children}
        {fault}
      </>
    );
  }
  return (
    <div className="min-w-0">
      <label htmlFor={props.id} className="label mb-0.5 block">
        {props.label}
      </label>
      {props.children}
      {fault}
      {props.hint && <p className="mt-0.5 text-[12px] text-ink2">{props.hint}</p>}
    </div>
  );
}

/** A number beyond its limit, in the person's units. */
function beyond(bound: Bound, dimension: Dimension, units: UnitChoice): string {
  const unit = fieldUnit(dimension, units);
  const said = (value: number) => `${fieldText(value, dimension, units)}${unit && `\u2009${unit}`}`;
  return `is ${said(bound.given)}; it must be ${bound.word} ${said(bound.limit)}`;
}

export function NumberField({
  label,
  path,
  dimension,
  known = false,
  optional = false,
  fallback,
  blankZero = false,
  atVolts,
  bare,
  hint,
}: NumberProps) {
  const id = useId();
  const units = useUnits();
  const field = useField<number | Known | null>(path);
  const number = known ? ((field.value as Known | null)?.value ?? null) : (field.value as number | null);
  const basis = known ? (field.value as Known | null)?.basis : undefined;
  const take = (text: string) => {
    if (text.trim() === "" && optional) {
      field.set(null);
      return undefined;
    }
    const read = readQuantity(text, dimension, units, atVolts);
    if ("error" in read) return read.error;
    field.set(known ? { value: read.value, basis: "stated" } : read.value);
    return undefined;
  };
  const draft = useDraft(
    number === null || number === undefined || (blankZero && number === 0)
      ? ""
      : fieldText(number, dimension, units),
    take,
    { confirms: basis === "default", kept: field.unread, keep: field.keepUnread },
  );
  const error = draft.error ?? (field.bound ? beyond(field.bound, dimension, units) : field.fault);
  const help = useHelp(path, dimension);
  const unit = fieldUnit(dimension, units);
  const guess = basis === "default" ? "guess" : "";
  const watts =
    dimension === "amps" && atVolts && number
      ? `${shown(number * atVolts, "W", units).number} W at ${atVolts} V`
      : "";
  const usual =
    fallback === null || fallback === undefined
      ? undefined
      : `${bare ? "" : "usual "}${fieldText(Number(fallback.toPrecision(3)), dimension, units)}`;
  const input = (
    <input
      id={id}
      className={`${bare ? "cell md:text-right" : "field min-w-[4.5rem] flex-1 text-right"} ${guess}`}
      aria-label={bare ? label : undefined}
      aria-invalid={error ? true : undefined}
      aria-describedby={error ? `${id}-error` : undefined}
      {...help}
      title={guess ? `${label}: our guess. Type your own figure.` : watts || undefined}
      inputMode="text"
      autoComplete="off"
      placeholder={usual}
      value={draft.text}
      onChange={(event) => {
        field.clearFault();
        draft.change(event.target.value);
      }}
      onFocus={(event) => event.target.select()}
      onBlur={draft.commit}
      onKeyDown={(event) => onKeys(event, draft.commit, draft.revert)}
    />
  );
  return (
    <Framed id={id} label={label} bare={bare} error={error} hint={hint}>
      {bare ? (
        input
      ) : (
        <div className="flex flex-wrap items-center gap-x-1.5 gap-y-1">
          {input}
          {unit && <span className="shrink-0 text-ink2">{unit}</span>}
          {watts && <span className="shrink-0 text-[12px] text-ink2">({watts})</span>}
          {known && basis && <BasisField label={label} path={path} />}
        </div>
      )}
    </Framed>
  );
}

/** How a figure is known; the report lists the guesses the verdict rests on. */
function BasisField({ label, path }: { label: string; path: Path }) {
  const field = useField<Known>(path);
  return (
    <select
      aria-label={`${label}: how it is known`}
      className="field max-w-[7.4rem] shrink-0 text-[12px]"
      value={field.value.basis}
      onChange={(event) => field.set({ value: field.value.value, basis: event.target.value as Basis })}
    >
      {BASIS.map(([value, name]) => (
        <option key={value} value={value}>
          {name}
        </option>
      ))}
    </select>
  );
}

export function TextField({ label, path, bare, lines }: Common & { lines?: number }) {
  const id = useId();
  const field = useField<string>(path);
  const draft = useDraft(field.value, (text) => {
    field.set(text);
    return undefined;
  });
  const error = draft.error ?? field.fault;
  const help = useHelp(path);
  const shared = {
    ...help,
    id,
    className: bare ? "cell" : "field",
    "aria-label": bare ? label : undefined,
    "aria-invalid": error ? true : undefined,
    title: bare ? draft.text : undefined,
    value: draft.text,
    onFocus: (event: FocusEvent<HTMLInputElement | HTMLTextAreaElement>) => bare && event.target.select(),
    onBlur: draft.commit,
  };
  const change = (text: string) => {
    field.clearFault();
    draft.change(text);
  };
  return (
    <Framed id={id} label={label} bare={bare} error={error}>
      {lines ? (
        <textarea {...shared} rows={lines} onChange={(event) => change(event.target.value)} />
      ) : (
        <input
          {...shared}
          autoComplete="off"
          onChange={(event) => change(event.target.value)}
          onKeyDown={(event) => onKeys(event, draft.commit, draft.revert)}
        />
      )}
    </Framed>
  );
}

type ChoiceProps = Common & {
  choices: Choice[] | undefined;
  numeric?: boolean;
  /** The empty choice stands for “not given”. */
  emptyIsNull?: boolean;
};

export function ChoiceField({
  label,
  path,
  choices,
  bare,
  hint,
  numeric = false,
  emptyIsNull = false,
}: ChoiceProps) {
  const id = useId();
  const field = useField<string | number | null>(path);
  const help = useHelp(path);
  const value = field.value === null ? "" : String(field.value);
  const chosen = choices?.find((choice) => choice.value === value);
  const set = (text: string) => field.set(emptyIsNull && text === "" ? null : numeric ? Number(text) : text);
  return (
    <Framed id={id} label={label} bare={bare} error={field.fault} hint={hint ?? chosen?.hint}>
      <select
        id={id}
        {...help}
        className={bare ? "cell" : "field"}
        aria-label={bare ? label : undefined}
        value={value}
        onChange={(event) => set(event.target.value)}
      >
        {(choices ?? [{ value, label: "…" }]).map((choice) => (
          <option key={choice.value} value={choice.value}>
            {choice.label}
          </option>
        ))}
      </select>
    </Framed>
  );
}

export function ToggleField({ label, path }: Common) {
  const field = useField<boolean>(path);
  const help = useHelp(path);
  return (
    <label className="flex items-center gap-2 self-start pt-5">
      <input
        type="checkbox"
        {...help}
        checked={field.value}
        onChange={(event) => field.set(event.target.checked)}
      />
      {label}
    </label>
  );
}

/** A figure with its unit as plain text, for sentences. */
export function useShown() {
  const units = useUnits();
  return (value: number | null | undefined, unit: string) => {
    if (value === null || value === undefined) return "–";
    const text = shown(value, unit, units);
    return text.unit ? `${text.number}\u2009${text.unit}` : text.number;
  };
}
