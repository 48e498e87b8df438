import { describe, expect, it } from "vitest";
import { labelled } from "./mapShape";

const upTo = (most: number, by = 1) => Array.from({ length: most / by }, (_, index) => (index + 1) * by);
const named = (values: number[], room: number) => values.filter((_, index) => labelled(values, room)(index));

describe("labelled", () => {
  it("names every value where there is room for all", () => {
    expect(named(upTo(6), 8)).toEqual([1, 2, 3, 4, 5, 6]);
  });

  it("names the multiples of a round step where there is not", () => {
    expect(named(upTo(24), 8)).toEqual([5, 10, 15, 20]);
    expect(named(upTo(40), 8)).toEqual([5, 10, 15, 20, 25, 30, 35, 40]);
    expect(named(upTo(12), 8)).toEqual([2, 4, 6, 8, 10, 12]);
  });

  it("names no value out of step where only some sizes are drawn yet", () => {
    expect(named(upTo(20, 4), 8)).toEqual([20]);
  });
});
