import { describe, expect, it } from "vitest";
import { said, saidIn } from "./said";
import type { UnitChoice } from "./units";

const metric: UnitChoice = { length: "metric", temperature: "C" };
const feet: UnitChoice = { length: "feet", temperature: "F" };

describe("a sentence of the server", () => {
  const sentences: [string, string, string][] = [
    ["falls to {−9 °C} at night", "falls to −9\u00a0°C at night", "falls to 16\u00a0°F at night"],
    ["{43 K} over the air", "43\u00a0K over the air", "77\u00a0°F over the air"],
    ["{5 m} of {4 mm²}", "5\u00a0m of 4\u00a0mm²", "16.4\u00a0ft of 4\u00a0mm²"],
    ["{5.26 mm²} for the set", "5.26\u00a0mm² for the set", "#10 for the set"],
    ["{62 kg}, {120 km} away", "62\u00a0kg, 120\u00a0km away", "137\u00a0lb, 75\u00a0mi away"],
  ];
  it.each(sentences)("%s is said in the person’s units", (text, inMetric, inFeet) => {
    expect(said(text, metric)).toBe(inMetric);
    expect(said(text, feet)).toBe(inFeet);
  });
  it("is left alone where nothing is marked, and so is what holds it", () => {
    const answer = { report: { sentence: "Stays up all year.", months: [1, 2] }, note: null };
    expect(saidIn(answer, feet)).toBe(answer);
  });
  it("is found wherever it stands, but never in what people typed", () => {
    const answer = { document: { note: "{5 m}" }, findings: [{ why: "{0 °C}" }] };
    expect(saidIn(answer, feet)).toEqual({ document: { note: "{5 m}" }, findings: [{ why: "32\u00a0°F" }] });
  });
});
