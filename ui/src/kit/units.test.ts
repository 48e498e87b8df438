import { describe, expect, it } from "vitest";
import {
  type Dimension,
  fieldText,
  gaugeMm2,
  readQuantity,
  shortNumber,
  shown,
  type UnitChoice,
} from "./units";

const metric: UnitChoice = { length: "metric", temperature: "C" };
const feet: UnitChoice = { length: "feet", temperature: "F" };

describe("readQuantity", () => {
  const taken: [string, Dimension, number][] = [
    ["22A", "amps", 22],
    ["450 mA", "amps", 0.45],
    ["0,45", "amps", 0.45],
    ["1/2", "amps", 0.5],
    ["6", "share", 0.06],
    ["6 %", "share", 0.06],
    ["6", "duty", 0.06],
    ["6 min", "duty", 0.1],
    ["15 min in an hour", "duty", 0.25],
    ["4h30", "hours", 4.5],
    ["90 min", "hours", 1.5],
    ["2 weeks", "days", 14],
    ["−15 °C", "temperature", -15],
    ["5 °F", "temperature", -15],
    ["100 ft", "height", 30.48],
    ["100 Ah", "amp_hours", 100],
    ["2x", "count", 2],
    ["30 ft", "length", 9.144],
    ["#10", "wire", 5.2612],
    ["12 ga", "wire", 3.3088],
    ["2/0 AWG", "wire", 67.431],
    ["4 mm2", "wire", 4],
    ["10", "wire", 10],
  ];
  it.each(taken)("reads %s as %s", (text, dimension, value) => {
    expect(readQuantity(text, dimension, metric)).toEqual({ value: expect.closeTo(value, 2) });
  });

  it("takes a bare number in the unit the person chose", () => {
    expect(readQuantity("5", "temperature", feet)).toEqual({ value: expect.closeTo(-15, 9) });
    expect(readQuantity("100", "height", feet)).toEqual({ value: expect.closeTo(30.48, 9) });
  });

  it.each([
    ["12 parsecs", "amps"],
    ["three", "amps"],
    ["", "volts"],
    ["1/0", "amps"],
    ["3 V", "amps"],
    ["1e999", "amps"],
    ["1.5", "count"],
  ] as [string, Dimension][])("refuses %s for %s and says what to type", (text, dimension) => {
    expect(readQuantity(text, dimension, metric)).toHaveProperty("error");
  });

  it("takes watts for amps where the volts are known", () => {
    expect(readQuantity("60 W", "amps", metric, 12)).toEqual({ value: 5 });
    expect(readQuantity("1.15 kW", "amps", metric, 230)).toEqual({ value: 5 });
    expect(readQuantity("5", "amps", metric, 12)).toEqual({ value: 5 });
    expect(readQuantity("60 W", "amps", metric)).toHaveProperty("error");
  });

  it("names the wrong unit and an example", () => {
    expect(readQuantity("12 parsecs", "amps", metric)).toEqual({
      error: "We can’t use the unit “parsecs” here. Type something like 0.45 A",
    });
  });
});

describe("copper", () => {
  // Areas from the table of ASTM B258 as published in circular mils: #10 is 10,380, 4/0 is 211,600.
  it.each([
    [10, 10380],
    [4, 41740],
    [-3, 211600],
  ])("gauge %i has the table's area", (gauge, circularMils) => {
    expect(gaugeMm2(gauge) / (circularMils * 5.067075e-4)).toBeCloseTo(1, 3);
  });

  it("is a gauge for those who think in feet, and stays square millimetres where it is none", () => {
    expect(readQuantity("10", "wire", feet)).toEqual({ value: expect.closeTo(5.2612, 3) });
    expect(fieldText(5.3, "wire", feet)).toBe("#10");
    expect(fieldText(gaugeMm2(-1), "wire", feet)).toBe("#2/0");
    expect(fieldText(4, "wire", feet)).toBe("4");
    expect(fieldText(5.26, "wire", metric)).toBe("5.26");
  });
});

describe("writing", () => {
  it("reads its own field text back", () => {
    for (const choice of [metric, feet]) {
      for (const [dimension, value] of [
        ["temperature", -15],
        ["height", 1480],
        ["share", 0.06],
      ] as [Dimension, number][]) {
        expect(readQuantity(fieldText(value, dimension, choice), dimension, choice)).toEqual({
          value: expect.closeTo(value, 2),
        });
      }
    }
  });

  it("keeps about three figures", () => {
    expect([1234.5, 33.46, 1.404, 0.0625, 0, -4].map(shortNumber)).toEqual([
      "1235",
      "33.5",
      "1.4",
      "0.063",
      "0",
      "−4",
    ]);
  });

  it("shows shares as percent and temperatures in the person's unit", () => {
    expect(shown(0.456, "share", metric)).toEqual({ number: "45.6", unit: "%" });
    expect(shown(-15, "°C", feet)).toEqual({ number: "5", unit: "°F" });
  });
});
