import { expect, test } from "vitest";
import { readingsText, readReadings } from "./readings";

test("readings of each panel are read as they are written down, and written again", () => {
  const text = "1 21.3 V 5.8 A, back row 21 V 5.5 A 5.1 A, 20.9 V";
  const found = readReadings(text);
  expect(found).toEqual([
    { panel: "1", v_oc: 21.3, i_sc: 5.8, i_mp: null },
    { panel: "back row", v_oc: 21, i_sc: 5.5, i_mp: 5.1 },
    { panel: "", v_oc: 20.9, i_sc: null, i_mp: null },
  ]);
  expect(readingsText(found as never)).toBe(text);
});

test("what is no reading is named", () => {
  expect(readReadings("1 21.3 V, two volts")).toEqual({
    error: "We can’t read “two volts”. Type a mark, volts and amps, such as 1 21.3 V 5.8 A",
  });
  expect(readReadings("1 2.1.3 V")).toHaveProperty("error");
  expect(readReadings("")).toEqual([]);
});
