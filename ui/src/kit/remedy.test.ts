import { expect, it } from "vitest";
import { editsOf } from "./remedy";

it("a patch becomes edits, rows by number", () => {
  const patch = [{ op: "replace", path: "/array/strings/0/parallel", value: 3 }];
  expect(editsOf(patch)).toEqual([{ kind: "set", path: ["array", "strings", 0, "parallel"], value: 3 }]);
});
