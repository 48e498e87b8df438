import type { components } from "../../api/schema";

export type Reading = components["schemas"]["PanelReading"];

const ONE = /^(?:(.*?)\s+)?([\d.]+)\s*V(?:\s+([\d.]+)\s*A)?(?:\s+([\d.]+)\s*A)?$/i;

/** “1 21.3 V 5.8 A, 2 21.0 V 5.5 A 5.1 A”: a mark, open-circuit volts, short-circuit amps, amps at work. */
export function readReadings(text: string): Reading[] | { error: string } {
  const found: Reading[] = [];
  for (const part of text.split(",").map((item) => item.trim())) {
    if (part === "") continue;
    const match = ONE.exec(part);
    const [volts, short, work] = (match?.slice(2) ?? []).map((item) => (item ? Number(item) : null));
    if (!match || [volts, short, work].some((value) => Number.isNaN(value))) {
      return { error: `We can’t read “${part}”. Type a mark, volts and amps, such as 1 21.3 V 5.8 A` };
    }
    found.push({ panel: match[1] ?? "", v_oc: volts ?? null, i_sc: short ?? null, i_mp: work ?? null });
  }
  return found;
}

/** The same as text again. */
export function readingsText(readings: readonly Reading[]): string {
  return readings
    .map(({ panel, v_oc, i_sc, i_mp }) =>
      [
        panel,
        v_oc === null ? "" : `${v_oc} V`,
        ...[i_sc, i_mp].map((amps) => (amps === null ? "" : `${amps} A`)),
      ]
        .filter((item) => item !== "")
        .join(" "),
    )
    .join(", ");
}
