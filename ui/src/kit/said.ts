import { shown, type UnitChoice } from "./units";

const MEASURE = /\{(−?[\d.]+) (°C|K|m|km|kg|mm²)\}/g;

/** A sentence of the server with its marked figures in the person's units. */
export function said(text: string, units: UnitChoice): string {
  if (!text.includes("{")) return text;
  return text.replace(MEASURE, (_, number: string, unit: string) => {
    const digits = number.split(".")[1]?.length ?? 0;
    const told = shown(Number(number.replace("−", "-")), unit, units, digits);
    return told.unit ? `${told.number}\u00a0${told.unit}` : told.number;
  });
}

/** An answer of the server with every sentence in it said in the person's units; what says nothing stays the same object. */
export function saidIn<T>(value: T, units: UnitChoice): T {
  if (typeof value === "string") return said(value, units) as T;
  if (Array.isArray(value)) {
    const items = value.map((item) => saidIn(item, units));
    return (items.some((item, index) => item !== value[index]) ? items : value) as T;
  }
  if (value === null || typeof value !== "object") return value;
  const told = Object.entries(value).flatMap(([key, part]) => {
    // What people typed stays as they typed it.
    const now = key === "document" ? part : saidIn(part, units);
    return now === part ? [] : [[key, now] as const];
  });
  return told.length > 0 ? { ...value, ...Object.fromEntries(told) } : value;
}
