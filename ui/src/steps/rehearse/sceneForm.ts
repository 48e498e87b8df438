import type { components } from "../../api/schema";
import { MONTHS } from "../../kit/MonthStrip";
import { type HappeningForm, happeningOf, rowOf } from "./happenings";

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
  { value: "poor", label: "poor (1 year in 10)" },
  { value: "worst", label: "worst of all years" },
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
    tempos: Array.from(form.tempos.slice(0, days), (tempo) => tempo || "as-sized"),
    start_share: Number(form.start) / 100,
    shed_comfort: Number(form.comfort) / 100,
    shed_useful: Number(form.useful) / 100,
    happenings: form.happenings.map(happeningOf),
  };
}

const percent = (share: number | undefined) => String(Math.round((share ?? 0) * 100));

/** The other way round: the form of a scene. */
export function formOf(scene: Scene): SceneForm {
  return {
    month: String(scene.month),
    day: String(scene.day),
    days: String(scene.days),
    sky: scene.sky ?? "typical",
    tempos: (scene.tempos ?? []).map((tempo) => (tempo === "as-sized" ? "" : tempo)),
    start: percent(scene.start_share ?? 1),
    comfort: percent(scene.shed_comfort),
    useful: percent(scene.shed_useful),
    happenings: (scene.happenings ?? []).map(rowOf),
  };
}

const FIRST_DAY = "10";
const FEW_DAYS = 3;
const MOST_DAYS = 30;

/** The outage a design is played in before anybody has said which: its hard month, its days, a poor sky. */
export function firstScene(hardMonth: number, askedDays: number | null | undefined): SceneForm {
  return {
    month: String(hardMonth),
    day: FIRST_DAY,
    days: String(Math.min(MOST_DAYS, Math.max(1, Math.ceil(askedDays ?? FEW_DAYS)))),
    sky: "poor",
    tempos: [],
    start: "100",
    comfort: "0",
    useful: "0",
    happenings: [],
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
