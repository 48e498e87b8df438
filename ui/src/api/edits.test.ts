import { describe, expect, it } from "vitest";
import { applied, collides, pointerOf, RowGone, toPatch, valueAt } from "./edits";

const document = {
  name: "A",
  draw: {
    loads: [
      { id: "hf", amps: 1 },
      { id: "vhf", amps: 2 },
    ],
  },
  "a/b~c": { d: 1 },
};

describe("paths", () => {
  it("find a row by id wherever it stands", () => {
    expect(pointerOf(document, ["draw", "loads", { id: "vhf" }, "amps"])).toBe("/draw/loads/1/amps");
    expect(valueAt(document, ["draw", "loads", { id: "vhf" }, "amps"])).toBe(2);
  });
  it("escape as RFC 6901 asks", () => {
    expect(pointerOf(document, ["a/b~c", "d"])).toBe("/a~1b~0c/d");
  });
  it("tell when a row is gone", () => {
    expect(() => pointerOf(document, ["draw", "loads", { id: "x" }])).toThrow(RowGone);
    expect(valueAt(document, ["draw", "loads", { id: "x" }, "amps"])).toBeUndefined();
  });
});

describe("edits", () => {
  const set = { kind: "set", path: ["draw", "loads", { id: "hf" }, "amps"], value: 5 } as const;
  it("become JSON Patch", () => {
    expect(toPatch(document, set)).toEqual([{ op: "replace", path: "/draw/loads/0/amps", value: 5 }]);
    expect(toPatch(document, { kind: "insert", path: ["draw", "loads"], value: 1 })).toEqual([
      { op: "add", path: "/draw/loads/-", value: 1 },
    ]);
    expect(toPatch(document, { kind: "remove", path: ["draw", "loads", { id: "vhf" }] })).toEqual([
      { op: "remove", path: "/draw/loads/1" },
    ]);
  });
  it("leave the given document alone", () => {
    expect(applied(document, set).draw.loads[0]).toEqual({ id: "hf", amps: 5 });
    expect(
      applied(document, { kind: "remove", path: ["draw", "loads", { id: "hf" }] }).draw.loads,
    ).toHaveLength(1);
    expect(
      applied(document, { kind: "insert", path: ["draw", "loads"], value: { id: "x" } }).draw.loads,
    ).toHaveLength(3);
    expect(document.draw.loads).toHaveLength(2);
    expect(document.draw.loads[0]?.amps).toBe(1);
  });
  it("collide only where both changed the same field to different values", () => {
    const theirs = applied(document, { ...set, value: 9 });
    expect(collides(document, theirs, set)).toBe(true);
    expect(collides(document, applied(document, set), set)).toBe(false);
    expect(collides(document, applied(document, { ...set, path: ["name"], value: "B" }), set)).toBe(false);
  });
});

describe("a row that may not be there yet", () => {
  const held = { bus: { runs: [{ id: "main", length_m: 1 }] } };
  const path = (id: string) => ["bus", "runs", { id, orNew: { id, mm2: null } }, "length_m"] as const;
  it("is put in by the first edit of it, with what it starts from", () => {
    const edit = { kind: "set", path: path("load-hf"), value: 3 } as const;
    const row = { id: "load-hf", mm2: null, length_m: 3 };
    expect(toPatch(held, edit)).toEqual([{ op: "add", path: "/bus/runs/-", value: row }]);
    expect(applied(held, edit).bus.runs).toEqual([{ id: "main", length_m: 1 }, row]);
  });
  it("is changed where it is there", () => {
    const edit = { kind: "set", path: path("main"), value: 2 } as const;
    expect(toPatch(held, edit)).toEqual([{ op: "replace", path: "/bus/runs/0/length_m", value: 2 }]);
  });
  it("holds its faults where it will stand", () => {
    expect(pointerOf(held, path("load-hf"))).toBe("/bus/runs/1/length_m");
    expect(valueAt(held, path("load-hf"))).toBeUndefined();
  });
});
