import { expect, it } from "vitest";
import { placeInWords, placeOf } from "./places";

const document = {
  draw: { loads: [{ name: "HF radio" }, { name: "Lights", receive_a: { value: 1 } }] },
  array: { strings: [{}] },
};

it.each([
  ["/draw/loads/1/receive_a/value", "Loads, Lights, receive, amps"],
  ["/draw/loads/0/hours_per_day", "Loads, HF radio, hours per day"],
  ["/array/strings/0/cable_m", "Panels, strings 1, cable, length"],
  ["", "The design"],
])("says %s as a person would", (pointer, words) => {
  expect(placeInWords(document, pointer)).toBe(words);
});

it("says the place of a difference in the words of the screens", () => {
  expect(placeOf(["store", "bank", "chemistry"])).toBe("Battery, chemistry");
  expect(placeOf(["store", "bank", "unit_ah"])).toBe("Battery, unit, amp-hours");
  expect(placeOf(["draw", "HF radio", "tier"])).toBe("Loads, HF radio, priority");
});
