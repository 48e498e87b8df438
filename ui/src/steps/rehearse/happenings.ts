import type { components } from "../../api/schema";

export type Happening = components["schemas"]["Happening"];
export type Kind = Happening["kind"];

/** What can go wrong, or be done, with what has to be said about it. */
export const KINDS: { value: Kind; label: string; amount?: string; usual?: string; string?: boolean }[] = [
  { value: "string_lost", label: "A panel string fails", string: true },
  { value: "panel_lost", label: "Some panels fail", amount: "Panels", usual: "1", string: true },
  { value: "controller_lost", label: "A charge controller fails", string: true },
  { value: "charger_lost", label: "The engine’s charger fails" },
  { value: "backup_lost", label: "Mains or generator backup fails" },
  { value: "snow", label: "Snow on the panels" },
  { value: "battery_lost", label: "One battery string fails" },
  { value: "extra_load", label: "Extra load", amount: "Extra amps", usual: "3" },
  { value: "cold_snap", label: "A cold snap", amount: "Degrees colder (°C)", usual: "10" },
  { value: "internet_down", label: "The internet is down" },
  { value: "mains_back", label: "Mains come back", amount: "Charger, amps", usual: "20" },
  { value: "low_power", label: "Turn the radios’ power down", amount: "To watts", usual: "25" },
  { value: "generator", label: "Run the generator", amount: "Amps into the battery", usual: "20" },
  { value: "swap", label: "Swap batteries: take the main one out to charge" },
];

export type HappeningForm = {
  kind: Kind;
  from: string;
  to: string;
  everyDay: boolean;
  of: string;
  amount: string;
};

const DAY_H = 24;

/** An hour from the start as people say it. */
export const hourWords = (hour: number) => `day ${Math.floor(hour / DAY_H) + 1}, ${clock(hour % DAY_H)}`;
const clock = (hour: number) => `${String(hour).padStart(2, "0")}:00`;

/** An hour from the start: “day 3, 18:00”, “d3 18”, “18:00” of the first day, or just 66. Whole hours only. */
export function readHour(text: string): number | undefined {
  const tidy = text.trim().toLowerCase();
  if (/^\d+$/.test(tidy)) return Number(tidy);
  const said = /^(?:d(?:ay)?\s*(\d{1,2})[\s,]*)?(\d{1,2})(?::00|\s*h)?$/.exec(tidy);
  if (!said) return undefined;
  const [day, hour] = [Number(said[1] ?? 1), Number(said[2])];
  return day < 1 || hour > DAY_H ? undefined : (day - 1) * DAY_H + hour;
}

export function happeningOf(row: HappeningForm): Happening {
  const kind = KINDS.find((item) => item.value === row.kind);
  return {
    kind: row.kind,
    from_h: readHour(row.from) ?? 0,
    to_h: readHour(row.to) ?? 0,
    every_day: row.everyDay,
    of: kind?.string ? row.of : null,
    amount: kind?.amount ? Number(row.amount) : null,
  };
}

/** The other way round: a row of the form. */
export function rowOf(item: Happening): HappeningForm {
  const said = item.every_day ? clock : hourWords;
  return {
    kind: item.kind,
    from: said(item.from_h ?? 0),
    to: said(item.to_h),
    everyDay: item.every_day ?? false,
    of: item.of ?? "",
    amount: item.amount === null || item.amount === undefined ? "" : String(item.amount),
  };
}
