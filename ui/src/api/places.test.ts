import { expect, it } from "vitest";
import { placeInWords } from "./places";

const document = {
  draw: { loads: [{ name: "HF radio" }, { name: "Lights", receive_a: { value: 1 } }] },
  array: { strings: [{}] },
};

it.each([
  ["/draw/loads/1/receive_a/value", "Draw, Lights, receive, amps"],
  ["/draw/loads/0/hours_per_day", "Draw, HF radio, hours per day"],
  ["/array/strings/0/cable_m", "Array, strings 1, cable, length"],
  ["", "The design"],
])("says %s as a person would", (pointer, words) => {
  expect(placeInWords(document, pointer)).toBe(words);
});
