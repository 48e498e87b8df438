/** Reading what people type and writing what they like to read. SI inside; the person's units only here. */

export type UnitChoice = { length: "metric" | "feet"; temperature: "C" | "F" };

export type Dimension =
  | "amps"
  | "volts"
  | "amp_hours"
  | "watts"
  | "share"
  | "duty"
  | "hours"
  | "days"
  | "temperature"
  | "height"
  | "angle"
  | "count"
  | "number"
  | "price"
  | "watt_hours"
  | "weight"
  | "years"
  | "area"
  | "length"
  | "wire";

type Scale = { factor: number; offset?: number };
type Rule = { si: string; scales: Record<string, Scale>; example: string; bare: string };

const one: Scale = { factor: 1 };
const AMP_HOURS: Record<string, Scale> = { ah: one, a·h: one, mah: { factor: 1e-3 }, ma·h: { factor: 1e-3 } };
const HOURS: Record<string, Scale> = {
  h: one,
  hr: one,
  hrs: one,
  hour: one,
  hours: one,
  min: { factor: 1 / 60 },
  m: { factor: 1 / 60 },
};
const CELSIUS: Scale = one;
const FAHRENHEIT: Scale = { factor: 5 / 9, offset: -32 };

const RULES: Record<Dimension, Rule> = {
  amps: {
    si: "A",
    scales: { a: one, amp: one, amps: one, ma: { factor: 1e-3 } },
    example: "0.45 A",
    bare: "a",
  },
  volts: {
    si: "V",
    scales: { v: one, volt: one, volts: one, mv: { factor: 1e-3 } },
    example: "12.8 V",
    bare: "v",
  },
  amp_hours: { si: "A·h", scales: AMP_HOURS, example: "100 Ah", bare: "ah" },
  watts: {
    si: "W",
    scales: { w: one, watt: one, watts: one, kw: { factor: 1e3 } },
    example: "110 W",
    bare: "w",
  },
  share: {
    si: "share",
    scales: { "%": { factor: 0.01 }, percent: { factor: 0.01 } },
    example: "6 %",
    bare: "%",
  },
  // A part of an hour, as people say it: “6 min” of each.
  duty: {
    si: "share",
    scales: {
      "%": { factor: 0.01 },
      percent: { factor: 0.01 },
      min: { factor: 1 / 60 },
      "min/h": { factor: 1 / 60 },
      mininanhour: { factor: 1 / 60 },
      minutesanhour: { factor: 1 / 60 },
    },
    example: "6 % or 4 min/h",
    bare: "%",
  },
  hours: { si: "h", scales: HOURS, example: "4h30", bare: "h" },
  days: {
    si: "d",
    scales: { d: one, day: one, days: one, h: { factor: 1 / 24 }, weeks: { factor: 7 }, week: { factor: 7 } },
    example: "3 days",
    bare: "d",
  },
  temperature: {
    si: "°C",
    scales: { "°c": CELSIUS, c: CELSIUS, "°f": FAHRENHEIT, f: FAHRENHEIT },
    example: "-15 °C",
    bare: "°c",
  },
  height: {
    si: "m",
    scales: {
      m: one,
      km: { factor: 1e3 },
      ft: { factor: 0.3048 },
      feet: { factor: 0.3048 },
      "'": { factor: 0.3048 },
    },
    example: "1480 m",
    bare: "m",
  },
  angle: { si: "°", scales: { "°": one, deg: one }, example: "65°", bare: "°" },
  count: { si: "", scales: { "×": one, x: one }, example: "2", bare: "×" },
  number: { si: "", scales: {}, example: "10", bare: "" },
  price: { si: "money", scales: {}, example: "0.32", bare: "" },
  watt_hours: {
    si: "W·h",
    scales: { wh: one, w·h: one, kwh: { factor: 1e3 }, kw·h: { factor: 1e3 } },
    example: "500 Wh",
    bare: "wh",
  },
  weight: {
    si: "kg",
    scales: {
      kg: one,
      g: { factor: 1e-3 },
      lb: { factor: 0.45359237 },
      lbs: { factor: 0.45359237 },
      oz: { factor: 0.028349523 },
    },
    example: "31 kg",
    bare: "kg",
  },
  years: {
    si: "years",
    scales: { years: one, year: one, y: one, months: { factor: 1 / 12 } },
    example: "8 years",
    bare: "years",
  },
  area: {
    si: "cm²",
    scales: {
      "cm²": one,
      cm2: one,
      "mm²": { factor: 0.01 },
      mm2: { factor: 0.01 },
      "in²": { factor: 6.4516 },
      in2: { factor: 6.4516 },
    },
    example: "40 cm²",
    bare: "cm²",
  },
  length: {
    si: "m",
    scales: {
      m: one,
      cm: { factor: 0.01 },
      mm: { factor: 1e-3 },
      ft: { factor: 0.3048 },
      feet: { factor: 0.3048 },
      foot: { factor: 0.3048 },
      "'": { factor: 0.3048 },
      in: { factor: 0.0254 },
      '"': { factor: 0.0254 },
    },
    example: "6.5 m or 21 ft",
    bare: "m",
  },
  wire: {
    si: "mm²",
    scales: { "mm²": one, mm2: one, sqmm: one },
    example: "4 mm2 or #10",
    bare: "mm²",
  },
};

/** Copper of a gauge [mm²]. ASTM B258: d = 0.127 · 92^((36 − n)/39) mm, where 1/0 is n = 0, 2/0 is −1. */
export function gaugeMm2(gauge: number): number {
  const millimetres = 0.127 * 92 ** ((36 - gauge) / 39);
  return (Math.PI / 4) * millimetres ** 2;
}

const THICKEST_GAUGE = -3;
const THINNEST_GAUGE = 40;
const SAME_GAUGE = 0.03;
/** Labels round: 5.26 and 5.3 mm² are both #10. */

/** A gauge as it is said: #10, #2/0. */
function gaugeName(gauge: number): string {
  return gauge > 0 ? `#${gauge}` : `#${1 - gauge}/0`;
}

/** The gauge that some copper is, if it is one. */
function gaugeOf(mm2: number): number | undefined {
  const gauge = Math.round(36 - (39 / 2) * (Math.log((4 * mm2) / Math.PI / 0.127 ** 2) / Math.log(92)));
  const isOne = gauge >= THICKEST_GAUGE && gauge <= THINNEST_GAUGE;
  return isOne && Math.abs(gaugeMm2(gauge) / mm2 - 1) < SAME_GAUGE ? gauge : undefined;
}

/** A conductor typed as a gauge: “#10”, “12 ga”, “2/0 AWG”; a bare number only for those who think in gauges. */
function readGauge(tidy: string, choice: UnitChoice): number | undefined {
  const match = /^(#?)(?:(\d{1,2})|([1-4])\/0)(ga|gauge|awg)?$/.exec(tidy);
  if (!match) return undefined;
  const [, sign, number, zeros, word] = match;
  if (!sign && !word && !zeros && choice.length === "metric") return undefined;
  const gauge = zeros ? 1 - Number(zeros) : Number(number);
  return gauge <= THINNEST_GAUGE ? gaugeMm2(gauge) : undefined;
}

export type Read = { value: number } | { error: string };

function bareUnit(dimension: Dimension, choice: UnitChoice): string {
  if (dimension === "temperature" && choice.temperature === "F") return "°f";
  if ((dimension === "height" || dimension === "length") && choice.length === "feet") return "ft";
  if (dimension === "weight" && choice.length === "feet") return "lb";
  if (dimension === "area" && choice.length === "feet") return "in²";
  return RULES[dimension].bare;
}

function plainNumber(text: string): number | undefined {
  const fraction = /^([+-]?\d+)\/(\d+)$/.exec(text);
  if (fraction) return Number(fraction[2]) === 0 ? undefined : Number(fraction[1]) / Number(fraction[2]);
  if (!/^[+-]?(\d+([.,]\d*)?|[.,]\d+)(e[+-]?\d+)?$/i.test(text)) return undefined;
  return Number(text.replace(",", "."));
}

/**
 * Read a typed figure into SI: “22A”, “1/2”, “4h30”, “5 °F”, “41 ft”. A bare number is in the shown unit. Watts go for
 * amps where the volts they are at are known.
 */
export function readQuantity(text: string, dimension: Dimension, choice: UnitChoice, atVolts?: number): Read {
  const rule = RULES[dimension];
  const tidy = text
    .trim()
    .toLowerCase()
    .replaceAll("−", "-")
    .replace(/[\s\u2009\u00a0]+/g, "");
  const clock = dimension === "hours" ? /^(\d+)(?:h|:)(\d{1,2})(?:min|m)?$/.exec(tidy) : null;
  if (clock && Number(clock[2]) < 60) return { value: Number(clock[1]) + Number(clock[2]) / 60 };
  const gauge = dimension === "wire" ? readGauge(tidy, choice) : undefined;
  if (gauge !== undefined) return { value: Number(gauge.toPrecision(6)) };
  const split = /^([+-]?[\d.,/]+(?:e[+-]?\d+)?)(.*)$/.exec(tidy);
  const number = split?.[1] === undefined ? undefined : plainNumber(split[1]);
  if (number === undefined || !Number.isFinite(number)) {
    return { error: `We can’t read “${text.trim()}” as a number. Type something like ${rule.example}` };
  }
  const unit = split?.[2] || bareUnit(dimension, choice);
  const watts = dimension === "amps" && atVolts ? RULES.watts.scales[unit] : undefined;
  const scale = watts && atVolts ? { factor: watts.factor / atVolts } : unit === "" ? one : rule.scales[unit];
  if (!scale) {
    return { error: `We can’t use the unit “${split?.[2]}” here. Type something like ${rule.example}` };
  }
  const value = (number + (scale.offset ?? 0)) * scale.factor;
  if (dimension === "count" && !Number.isInteger(value)) return { error: "must be a whole number" };
  return { value: Number(value.toPrecision(12)) };
}

/** A number with about three figures that matter. */
export function shortNumber(value: number): string {
  const size = Math.abs(value);
  const decimals = size >= 100 ? 0 : size >= 10 ? 1 : size === 0 ? 0 : size >= 0.1 ? 2 : 3;
  const fixed = value.toFixed(decimals);
  const trimmed = fixed.includes(".") ? fixed.replace(/\.?0+$/, "") : fixed;
  return trimmed.replace("-", "−");
}

/** A guess with two figures that matter, so that it looks no surer than it is. */
export const roughly = (value: number): number => Number(value.toPrecision(2));

/** A short length is told to a tenth, a long one whole. */
const length = (value: number) => (Math.abs(value) < 20 ? shortNumber(tenths(value)) : value.toFixed(0));

const tenths = (value: number) => Math.round(value * 10) / 10;

const KG_PER_LB = 0.45359237;
const CM2_PER_IN2 = 6.4516;
const FEET_UNITS: Record<string, number> = { m: 0.3048, kg: KG_PER_LB, "cm²": CM2_PER_IN2 };

const SHOWN: Record<string, string> = {
  A·h: "Ah",
  W·h: "Wh",
  kW·h: "kWh",
  "×": "×",
  money: "",
  "money/kW·h": "/kWh",
};

/** In place of a figure there is none to give: a time without end, or nothing of the rest. */
export function withoutValue(unit: string): string {
  return unit === "d" || unit === "h" ? "never runs out" : "none";
}

/**
 * A figure as the person reads it: the number and its unit apart. `digits` are those it was given with, where a
 * temperature is no more exact than that.
 */
export function shown(
  value: number,
  unit: string,
  choice: UnitChoice,
  digits?: number,
): { number: string; unit: string } {
  const exact = (degrees: number) => (digits === 0 ? Math.round(degrees) : tenths(degrees));
  switch (unit) {
    case "share":
      return { number: shortNumber(Math.round(value * 1000) / 10), unit: "%" };
    case "°C":
      return choice.temperature === "F"
        ? { number: shortNumber(exact(value * 1.8 + 32)), unit: "°F" }
        : { number: shortNumber(exact(value)), unit };
    case "K":
      return choice.temperature === "F"
        ? { number: shortNumber(exact(value * 1.8)), unit: "°F" }
        : { number: shortNumber(exact(value)), unit };
    case "years":
      return { number: shortNumber(tenths(value)), unit: Math.abs(value - 1) < 0.05 ? "year" : "years" };
    case "m":
      return choice.length === "feet"
        ? { number: length(value / 0.3048), unit: "ft" }
        : { number: length(value), unit };
    case "kg":
      return choice.length === "feet"
        ? { number: shortNumber(value / KG_PER_LB), unit: "lb" }
        : { number: shortNumber(value), unit };
    case "cm²":
      return choice.length === "feet"
        ? { number: shortNumber(value / CM2_PER_IN2), unit: "in²" }
        : { number: shortNumber(value), unit };
    case "mm²": {
      const gauge = choice.length === "feet" ? gaugeOf(value) : undefined;
      return gauge === undefined
        ? { number: shortNumber(value), unit }
        : { number: gaugeName(gauge), unit: "" };
    }
    case "km":
      return choice.length === "feet"
        ? { number: (value / 1.609344).toFixed(0), unit: "mi" }
        : { number: value.toFixed(0), unit };
    case "°":
      return { number: String(Number(value.toFixed(2))).replace("-", "−"), unit };
    case "d":
      return {
        number: shortNumber(tenths(value)),
        unit: Math.abs(value - 1) < 0.05 ? "day" : "days",
      };
    default:
      return { number: shortNumber(value), unit: SHOWN[unit] ?? unit };
  }
}

const FIGURES = 6;
const AMP_FIGURES = 4;
const FOOT_FIGURES = 3;
/** Amps often follow from watts: 65 W at 120 V are 0.5417 A. */

/** What a field holds when nobody is typing in it; left as it stands it is not read back. */
export function fieldText(value: number, dimension: Dimension, choice: UnitChoice): string {
  const si = RULES[dimension].si;
  const gauge = dimension === "wire" && choice.length === "feet" ? gaugeOf(value) : undefined;
  if (gauge !== undefined) return gaugeName(gauge);
  const scaled =
    si === "share"
      ? value * 100
      : si === "°C" && choice.temperature === "F"
        ? value * 1.8 + 32
        : choice.length === "feet"
          ? value / (FEET_UNITS[si] ?? 1)
          : value;
  const foreign = dimension === "length" && choice.length === "feet";
  return String(
    Number(scaled.toPrecision(foreign ? FOOT_FIGURES : dimension === "amps" ? AMP_FIGURES : FIGURES)),
  );
}

/** The unit a field shows beside it. */
export function fieldUnit(dimension: Dimension, choice: UnitChoice): string {
  const si = RULES[dimension].si;
  if (si === "share") return "%";
  if (dimension === "wire" && choice.length === "feet") return "";
  return shown(2, si, choice).unit;
}
