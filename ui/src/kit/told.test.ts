import { expect, it } from "vitest";
import type { Finding } from "../api/client";
import { headOf, toldTogether } from "./told";

const finding = (id: string, more: Partial<Finding> = {}) =>
  ({ id, sentence: id, alike: "", step: "draw", severity: "mind", muted: "", ...more }) as Finding;

it("tells together what says the same of several things, where the first stands", () => {
  const alike = "These sleep";
  const found = toldTogether([
    finding("a"),
    finding("one", { alike }),
    finding("b"),
    finding("two", { alike }),
    finding("grave", { alike, severity: "fix" }),
    finding("lived with", { alike, muted: "so be it" }),
  ]);
  expect(found.map((group) => group.map((item) => item.id))).toEqual([
    ["a"],
    ["one", "two"],
    ["b"],
    ["grave"],
    ["lived with"],
  ]);
  expect(found.map(headOf)).toEqual(["a", "These sleep", "b", "grave", "lived with"]);
});
