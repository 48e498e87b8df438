import { describe, expect, it } from "vitest";
import { happeningOf, KINDS } from "./happenings";
import { fieldOf, type SceneForm, sceneOf, wholeNumber } from "./sceneForm";

const form: SceneForm = {
  month: "7",
  day: "10",
  days: "2",
  sky: "poor",
  tempos: ["", "full-tilt", "listening"],
  start: "80",
  comfort: "60",
  useful: "0",
  happenings: [{ kind: "snow", from: "0", to: "24", of: "roof", amount: "5" }],
};

describe("the scene as the server takes it", () => {
  it("turns per cent into shares and keeps the tempos of the days there are", () => {
    const scene = sceneOf(form);
    expect(scene).toMatchObject({ month: 7, day: 10, days: 2, start_share: 0.8, shed_comfort: 0.6 });
    expect(scene.tempos).toHaveLength(2);
    expect(scene.tempos?.[1]).toBe("full-tilt");
  });
  it("sends a string and an amount only with what has them", () => {
    expect(happeningOf({ kind: "snow", from: "0", to: "24", of: "roof", amount: "5" })).toEqual({
      kind: "snow",
      from_h: 0,
      to_h: 24,
      of: null,
      amount: null,
    });
    expect(happeningOf({ kind: "string_lost", from: "1", to: "2", of: "roof", amount: "" }).of).toBe("roof");
    expect(happeningOf({ kind: "extra_load", from: "1", to: "2", of: "", amount: "2.5" }).amount).toBe(2.5);
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
