import { describe, expect, it } from "vitest";
import { happeningOf, hourWords, KINDS, readHour } from "./happenings";
import { fieldOf, firstScene, formOf, type SceneForm, sceneOf, wholeNumber } from "./sceneForm";

const form: SceneForm = {
  month: "7",
  day: "10",
  days: "2",
  sky: "poor",
  tempos: ["", "full-tilt", "listening"],
  start: "80",
  comfort: "60",
  useful: "0",
  happenings: [{ kind: "snow", from: "0", to: "24", everyDay: false, of: "roof", amount: "5" }],
};

describe("the scene as the server takes it", () => {
  it("turns per cent into shares and keeps the tempos of the days there are", () => {
    const scene = sceneOf(form);
    expect(scene).toMatchObject({ month: 7, day: 10, days: 2, start_share: 0.8, shed_comfort: 0.6 });
    expect(scene.tempos).toHaveLength(2);
    expect(scene.tempos?.[1]).toBe("full-tilt");
  });
  it("sends a string and an amount only with what has them", () => {
    expect(
      happeningOf({ kind: "snow", from: "0", to: "24", everyDay: false, of: "roof", amount: "5" }),
    ).toEqual({
      kind: "snow",
      from_h: 0,
      to_h: 24,
      every_day: false,
      of: null,
      amount: null,
    });
    expect(
      happeningOf({ kind: "string_lost", from: "1", to: "2", everyDay: false, of: "roof", amount: "" }).of,
    ).toBe("roof");
    expect(
      happeningOf({ kind: "extra_load", from: "1", to: "2", everyDay: false, of: "", amount: "2.5" }).amount,
    ).toBe(2.5);
  });
  it("comes back from the server's scene as it went", () => {
    const row = form.happenings[0];
    const said = { ...row, from: "day 1, 00:00", to: "day 2, 00:00", of: "", amount: "" };
    const told = { ...form, tempos: ["", "full-tilt"], happenings: [said] };
    expect(formOf(sceneOf(form))).toEqual(told);
    const daily = {
      kind: "generator",
      from: "18:00",
      to: "22:00",
      everyDay: true,
      of: "",
      amount: "20",
    } as const;
    expect(formOf(sceneOf({ ...form, happenings: [daily] })).happenings[0]).toEqual(daily);
  });
  it("begins in the hard month with the days that are asked", () => {
    expect(firstScene(6, 2.5)).toMatchObject({ month: "6", days: "3", sky: "poor", start: "100" });
    expect(firstScene(6, null).days).toBe("3");
    expect(firstScene(6, 90).days).toBe("30");
  });
  it.each([
    ["day 3, 18:00", 66],
    ["d3 18", 66],
    ["66", 66],
    ["18:00", 18],
    ["day 2, 24:00", 48],
    ["day 0, 3", undefined],
    ["half past six", undefined],
    ["18:30", undefined],
  ])("reads “%s” as an hour from the start", (text, hour) => {
    expect(readHour(text)).toBe(hour);
    if (hour !== undefined) expect(readHour(hourWords(hour))).toBe(hour);
  });
  it("names every kind once", () => {
    expect(new Set(KINDS.map((kind) => kind.value)).size).toBe(KINDS.length);
  });
});

describe("faults find their field", () => {
  it.each([
    ["/days", "days"],
    ["/shed_useful", "useful"],
    ["/happenings/2", "happenings.2.kind"],
    ["/happenings/0/to_h", "happenings.0.kind"],
    ["/nowhere", undefined],
  ])("%s", (pointer, field) => {
    expect(fieldOf(pointer)).toBe(field);
  });
  it("takes whole numbers only, and says what to type", () => {
    expect(wholeNumber(" 3 ")).toBe(true);
    expect(wholeNumber("2.5")).toContain("such as 3");
  });
});
