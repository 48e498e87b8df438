import type { components } from "../../api/schema";

export type Happening = components["schemas"]["Happening"];
export type Kind = Happening["kind"];

/** What can go wrong, or be done, with what has to be said about it. */
export const KINDS: { value: Kind; label: string; amount?: string; usual?: string; string?: boolean }[] = [
  { value: "string_lost", label: "A string is lost", string: true },
  { value: "controller_lost", label: "A controller dies", string: true },
  { value: "charger_lost", label: "The engine’s charger dies" },
  { value: "backup_lost", label: "Mains or generator behind it fail" },
  { value: "snow", label: "Snow on the panels" },
  { value: "battery_lost", label: "One battery string is gone" },
  { value: "extra_load", label: "More is drawn", amount: "Amps more", usual: "3" },
  { value: "cold_snap", label: "A cold snap", amount: "Kelvin colder", usual: "10" },
  { value: "internet_down", label: "The internet is down" },
  { value: "mains_back", label: "Mains come back", amount: "Charger, amps", usual: "20" },
  { value: "low_power", label: "Turn the sets down", amount: "To watts", usual: "25" },
  { value: "generator", label: "Run the generator", amount: "Amps into the bank", usual: "20" },
  { value: "swap", label: "Swap banks: the main one out to charge" },
];

export type HappeningForm = { kind: Kind; from: string; to: string; of: string; amount: string };

export function happeningOf(row: HappeningForm): Happening {
  const kind = KINDS.find((item) => item.value === row.kind);
  return {
    kind: row.kind,
    from_h: Number(row.from),
    to_h: Number(row.to),
    of: kind?.string ? row.of : null,
    amount: kind?.amount ? Number(row.amount) : null,
  };
}
