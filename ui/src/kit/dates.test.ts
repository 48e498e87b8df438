import { expect, it } from "vitest";
import { dayInWords } from "./dates";

it("says a day by the site's own clock, and never in figures", () => {
  expect(dayInWords("2026-04-02T12:00:00Z", "Pacific/Auckland")).toBe("3 April 2026");
  expect(dayInWords("2026-04-02T12:00:00Z", "UTC")).toBe("2 April 2026");
  expect(dayInWords(null, undefined)).toBe("");
});
