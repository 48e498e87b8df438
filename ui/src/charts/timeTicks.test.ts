import { describe, expect, it } from "vitest";
import { timeTicks } from "./timeTicks";

const at = (text: string) => Date.parse(text);

describe("ticks of time", () => {
  it("stand at round hours by the clock of the zone, with the day at midnight", () => {
    const ticks = timeTicks(at("2026-05-24T19:09:00Z"), at("2026-05-25T19:00:00Z"), "Pacific/Auckland", 6);
    // 07:09 to 07:00 there: every six hours.
    expect(ticks.map((tick) => tick.label)).toEqual(["12:00", "18:00", "26 May", "06:00"]);
    expect(new Date(ticks[0]?.at ?? 0).toISOString()).toBe("2026-05-25T00:00:00.000Z");
  });

  it("stand at midnights over a week and at firsts of months over years", () => {
    const week = timeTicks(at("2026-05-24T19:09:00Z"), at("2026-05-31T19:00:00Z"), "UTC", 8);
    expect(week.map((tick) => tick.label)).toEqual([
      "25 May 2026",
      "26 May",
      "27 May",
      "28 May",
      "29 May",
      "30 May",
      "31 May",
    ]);
    const decade = timeTicks(at("2016-05-24T00:00:00Z"), at("2026-05-24T00:00:00Z"), "UTC", 6);
    expect(decade.map((tick) => tick.label)).toEqual([
      "Jan 2018",
      "Jan 2020",
      "Jan 2022",
      "Jan 2024",
      "Jan 2026",
    ]);
  });

  it("say the year where it begins and where it changes, and no day twice", () => {
    const turn = timeTicks(at("2025-12-20T00:00:00Z"), at("2026-02-01T00:00:00Z"), "UTC", 8);
    const labels = turn.map((tick) => tick.label);
    expect(labels.filter((text) => text.includes("20"))).toEqual(
      expect.arrayContaining([expect.stringContaining("2025"), expect.stringContaining("2026")]),
    );
    for (const days of [1, 3, 20, 60, 92, 400, 1500, 3653]) {
      const ticks = timeTicks(
        at("2016-05-24T05:00:00Z"),
        at("2016-05-24T05:00:00Z") + days * 86_400_000,
        "UTC",
        8,
      );
      const told = ticks.map((tick) => tick.label);
      if (days > 8) expect(new Set(told).size, `${days} days`).toBe(told.length);
      expect(told.length, `${days} days`).toBeLessThanOrEqual(9);
    }
  });

  it("are none where there is no stretch", () => {
    expect(timeTicks(5, 5, "UTC", 6)).toEqual([]);
  });
});
