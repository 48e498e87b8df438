const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;
const STEPS_MS = [HOUR_MS, 3 * HOUR_MS, 6 * HOUR_MS, 12 * HOUR_MS, DAY_MS, 2 * DAY_MS, 7 * DAY_MS];
const STEPS_MONTHS = [1, 3, 6, 12, 24];

export type TimeTick = { at: number; label: string };

/** How far a zone's clock is ahead of UTC at a moment. [ms] */
function aheadMs(at: number, zone: string | undefined): number {
  const parts = new Intl.DateTimeFormat("en-GB", {
    timeZone: zone,
    hourCycle: "h23",
    year: "numeric",
    month: "numeric",
    day: "numeric",
    hour: "numeric",
    minute: "numeric",
  }).formatToParts(new Date(at));
  const part = (type: string) => Number(parts.find((item) => item.type === type)?.value);
  const local = Date.UTC(part("year"), part("month") - 1, part("day"), part("hour"), part("minute"));
  return local - Math.floor(at / 60_000) * 60_000;
}

type By = "hours" | "days" | "first days" | "months";

function label(at: number, zone: string | undefined, by: By): string {
  const shown: Record<By, Intl.DateTimeFormatOptions> = {
    hours: { hour: "2-digit", minute: "2-digit" },
    days: { day: "numeric", month: "short" },
    "first days": { day: "numeric", month: "short", year: "numeric" },
    months: { month: "short", year: "numeric" },
  };
  return new Intl.DateTimeFormat("en-GB", { timeZone: zone, ...shown[by] }).format(new Date(at));
}

/** Ticks of a stretch of time at round hours, days or months by a zone's clock, about so many at most. */
export function timeTicks(first: number, last: number, zone: string | undefined, most: number): TimeTick[] {
  if (!(last > first)) return [];
  const ahead = aheadMs(first, zone);
  const step = STEPS_MS.find((size) => (last - first) / size <= most);
  if (step !== undefined) {
    const from = Math.ceil((first + ahead) / step) * step;
    return Array.from({ length: Math.floor((last + ahead - from) / step) + 1 }, (_, index) => {
      const at = from + index * step - ahead;
      const midnight = (at + ahead) % DAY_MS === 0;
      if (step < DAY_MS) return { at, label: label(at, zone, midnight ? "days" : "hours") };
      // The year stands where it begins to be read, and where it changes.
      const year = (moment: number) => new Date(moment + ahead).getUTCFullYear();
      const isFirst = index === 0 || year(at) !== year(at - step);
      return { at, label: label(at, zone, isFirst ? "first days" : "days") };
    });
  }
  const months = (last - first) / (30.4 * DAY_MS);
  const every = STEPS_MONTHS.find((size) => months / size <= most) ?? 60;
  const begin = new Date(first + ahead);
  const ticks: TimeTick[] = [];
  for (let month = begin.getUTCFullYear() * 12 + begin.getUTCMonth() + 1; ; month += 1) {
    if (month % every !== 0) continue;
    const at = Date.UTC(Math.floor(month / 12), month % 12, 1) - ahead;
    if (at > last) return ticks;
    ticks.push({ at, label: label(at, zone, "months") });
  }
}
