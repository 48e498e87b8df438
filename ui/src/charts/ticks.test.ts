import { expect, it } from "vitest";
import { roundTicks } from "./ticks";

it.each([
  [11, 31, 6, [15, 20, 25, 30]],
  [10.8, 16.5, 6, [11, 12, 13, 14, 15, 16]],
  [0, 150, 6, [0, 50, 100, 150]],
  [5, 5, 6, []],
])("from %d to %d in about %d", (least, most, about, ticks) => {
  expect(roundTicks(least, most, about)).toEqual(ticks);
});

it("says on its label where it stands", () => {
  for (const volts of roundTicks(9.7, 63.2, 6)) expect(Number(volts.toFixed(0))).toBe(volts);
});
