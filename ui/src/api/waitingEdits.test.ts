import { beforeEach, describe, expect, it } from "vitest";
import { designView, newLoad } from "../test-design";
import type { Edit } from "./edits";
import { keepWaiting, keptWaiting, sorted } from "./waitingEdits";

const amps = (value: number): Edit => ({
  kind: "set",
  path: ["draw", "loads", { id: "load-1" }, "receive_a"],
  value: { value, basis: "stated" },
});
const document = (value = 0.5) =>
  designView([{ ...newLoad("load-1"), receive_a: { value, basis: "stated" } }], 1).document;

beforeEach(() => localStorage.clear());

describe("edits that wait beyond the page", () => {
  it("come back as they were, by design", () => {
    keepWaiting("d1", document(), [amps(3)]);
    expect(keptWaiting("d1")).toEqual([{ edit: amps(3), was: { value: 0.5, basis: "stated" } }]);
    expect(keptWaiting("d2")).toEqual([]);
  });

  it("are forgotten once nothing waits", () => {
    keepWaiting("d1", document(), [amps(3)]);
    keepWaiting("d1", document(), []);
    expect(keptWaiting("d1")).toEqual([]);
  });

  it("are due where nothing else came in between, and done where they had arrived", () => {
    keepWaiting("d1", document(), [amps(3)]);
    expect(sorted(document(), keptWaiting("d1"))).toEqual({ due: [amps(3)], against: [] });
    expect(sorted(document(3), keptWaiting("d1"))).toEqual({ due: [], against: [] });
  });

  it("are asked about where somebody set the same field meanwhile", () => {
    keepWaiting("d1", document(), [amps(3)]);
    expect(sorted(document(9), keptWaiting("d1"))).toEqual({ due: [], against: [amps(3)] });
  });

  it("put a row in once, and take one out that is there", () => {
    const insert: Edit = { kind: "insert", path: ["draw", "loads"], value: newLoad("load-2") };
    const again: Edit = { kind: "insert", path: ["draw", "loads"], value: newLoad("load-1") };
    const gone: Edit = { kind: "remove", path: ["draw", "loads", { id: "load-9" }] };
    const there: Edit = { kind: "remove", path: ["draw", "loads", { id: "load-1" }] };
    const kept = [insert, again, gone, there].map((edit) => ({ edit, was: null }));
    expect(sorted(document(), kept)).toEqual({ due: [insert, there], against: [] });
  });

  it("what cannot be read is nothing", () => {
    localStorage.setItem("yonderstat.waiting.d1", "{broken");
    expect(keptWaiting("d1")).toEqual([]);
    localStorage.setItem("yonderstat.waiting.d1", '{"version":9,"kept":[1]}');
    expect(keptWaiting("d1")).toEqual([]);
  });
});
