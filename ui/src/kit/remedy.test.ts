import { expect, it } from "vitest";
import { applied } from "../api/edits";
import { editsOf } from "./remedy";

it("a patch becomes edits, rows by number", () => {
  const patch = [{ op: "replace" as const, path: "/array/strings/0/parallel", value: 3 }];
  expect(editsOf(patch)).toEqual([{ kind: "set", path: ["array", "strings", 0, "parallel"], value: 3 }]);
});

it("every kind of operation does what it says", () => {
  const document = { rows: [{ id: "a" }, { id: "b" }], name: "x", limit: 4 as number | null };
  const patch = [
    { op: "add" as const, path: "/rows/1", value: { id: "new" } },
    { op: "add" as const, path: "/rows/-", value: { id: "last" } },
    { op: "remove" as const, path: "/rows/0", value: null },
    { op: "add" as const, path: "/name", value: "a/b" },
    { op: "remove" as const, path: "/limit", value: null },
  ];
  expect(editsOf(patch).reduce(applied, document)).toEqual({
    rows: [{ id: "new" }, { id: "b" }, { id: "last" }],
    name: "a/b",
    limit: null,
  });
});

it("a pointer's escapes are read", () => {
  expect(editsOf([{ op: "replace", path: "/a~1b/c~0d", value: 1 }])[0]?.path).toEqual(["a/b", "c~d"]);
});
