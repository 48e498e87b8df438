import type { components } from "../../api/schema";
import { MONTHS } from "../../kit/MonthStrip";
import { type HappeningForm, happeningOf } from "./happenings";

export type Scene = components["schemas"]["Scene"];
export type Sky = NonNullable<Scene["sky"]>;
export type SceneForm = {
  month: string;
  day: string;
  days: string;
  sky: Sky;
  tempos: string[];
  start: string;
  comfort: string;
  useful: string;
  happenings: HappeningForm[];
};

export const SKIES: { value: Sky; label: string }[] = [
  { value: "typical", label: "typical" },
  { value: "poor", label: "poor, one year in ten" },
  { value: "worst", label: "the worst of all years" },
  { value: "record", label: "the weather file’s own days" },
  { value: "none", label: "no sun at all" },
];
export const MONTH_CHOICES = MONTHS.map((label, index) => ({ value: String(index + 1), label }));
export const wholeNumber = (text: string) => /^\d+$/.test(text.trim()) || "type a whole number, such as 3";

export function sceneOf(form: SceneForm): Scene {
  const days = Number(form.days);
  return {
    month: Number(form.month),
    day: Number(form.day),
    days,
    sky: form.sky,
    tempos: form.tempos.slice(0, days).map((tempo) => tempo || "as-sized"),
    start_share: Number(form.start) / 100,
    shed_comfort: Number(form.comfort) / 100,
    shed_useful: Number(form.useful) / 100,
    happenings: form.happenings.map(happeningOf),
  };
}

/** Where the server's pointer lies in the form. */
export function fieldOf(pointer: string): keyof SceneForm | `happenings.${number}.kind` | undefined {
  const row = /^\/happenings\/(\d+)/.exec(pointer);
  if (row) return `happenings.${Number(row[1])}.kind`;
  const fields: Record<string, keyof SceneForm> = {
    "/days": "days",
    "/day": "day",
    "/start_share": "start",
    "/shed_comfort": "comfort",
    "/shed_useful": "useful",
  };
  return fields[pointer];
}
