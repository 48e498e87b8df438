import { QueryClient } from "@tanstack/react-query";
import { afterEach, describe, expect, it, vi } from "vitest";
import { designView, newLoad } from "../test-design";
import { fakeServer } from "../test-server";
import type { Design, DesignView } from "./client";
import { DesignEditor, whole } from "./designWire";
import type { Edit } from "./edits";
import { designKey } from "./queries";

const amps = (id: string, value: number): Edit => ({
  kind: "set",
  path: ["draw", "loads", { id }, "receive_a"],
  value: { value, basis: "stated" },
});

function withAmps(values: Record<string, number>, revision: number): DesignView {
  const loads = ["load-1", "load-2"].map((id) => ({
    ...newLoad(id),
    receive_a: { value: values[id] ?? 0.5, basis: "stated" as const },
  }));
  return designView(loads, revision);
}

function setUp(start = withAmps({}, 1)) {
  const cache = new QueryClient();
  cache.setQueryData(designKey("d1"), start);
  const editor = new DesignEditor("d1", cache);
  const shown = () => (cache.getQueryData(designKey("d1")) as { document: Design }).document.draw.loads;
  const idle = () => vi.waitFor(() => expect(editor.pending).toBe(false));
  return { editor, shown, idle };
}

afterEach(() => vi.useRealTimers());

describe("DesignEditor", () => {
  it("shows an edit at once and sends it on the revision it was made on", async () => {
    const asked = fakeServer(() => ({ body: withAmps({ "load-1": 3 }, 2) }));
    const { editor, shown, idle } = setUp();
    editor.edit(amps("load-1", 3));
    expect(shown()[0]?.receive_a.value).toBe(3);
    expect(editor.state.getState().save.kind).toBe("saving");
    await idle();
    expect(asked[0]?.headers.get("If-Match")).toBe("1");
    expect(asked[0]?.headers.get("Content-Type")).toBe("application/json");
    expect(asked[0]?.body).toEqual([
      { op: "replace", path: "/draw/loads/0/receive_a", value: { value: 3, basis: "stated" } },
    ]);
    expect(editor.state.getState().save.kind).toBe("saved");
  });

  it("asks for the figures that moved and keeps the others as they are", async () => {
    const asked = fakeServer(() => ({ body: withAmps({ "load-1": 3 }, 2) }));
    const { editor, idle } = setUp();
    editor.edit(amps("load-1", 3));
    await idle();
    expect(asked[0]?.query.get("working")).toBe("changed");
    const held = withAmps({}, 1);
    const figures = held.report.working;
    const moved = { ...figures["draw.daily_ah"], value: 77 } as (typeof figures)[string];
    const part = { ...held, revision: 2, working_since: 1, working_gone: ["mean"] };
    const found = whole({ ...part, report: { ...held.report, working: { "draw.daily_ah": moved } } }, held);
    expect(found.report.working["draw.daily_ah"]?.value).toBe(77);
    expect(Object.keys(found.report.working)).toEqual(["draw.daily_ah"]);
    const stayed = whole({ ...part, working_gone: [], report: { ...held.report, working: {} } }, held);
    expect(stayed.report.working.mean).toBe(figures.mean);
    expect(whole(withAmps({}, 3), held).report.working).toEqual(held.report.working);
  });

  it("keeps an edit while the database is away, and sends it again", async () => {
    vi.useFakeTimers();
    const away = {
      type: "urn:x",
      title: "The database isn't answering",
      status: 503,
      detail: "",
      faults: [],
    };
    let tries = 0;
    fakeServer(() => (++tries === 1 ? { status: 503, body: away } : { body: withAmps({ "load-1": 3 }, 2) }));
    const { editor, shown } = setUp();
    editor.edit(amps("load-1", 3));
    await vi.waitFor(() => expect(editor.state.getState().save.kind).toBe("unreachable"));
    expect(shown()[0]?.receive_a.value).toBe(3);
    await vi.advanceTimersByTimeAsync(3100);
    await vi.waitFor(() => expect(editor.state.getState().save.kind).toBe("saved"));
    expect(tries).toBe(2);
  });

  it("sends one request at a time, what came meanwhile together in the next", async () => {
    let revision = 1;
    const asked = fakeServer(() => ({ body: withAmps({ "load-1": 4, "load-2": 5 }, ++revision) }));
    const { editor, idle } = setUp();
    editor.edit(amps("load-1", 3));
    editor.edit(amps("load-1", 4));
    editor.edit(amps("load-2", 5));
    await idle();
    expect(asked.map((item) => (item.body as unknown[]).length)).toEqual([1, 2]);
    expect(asked[1]?.headers.get("If-Match")).toBe("2");
  });

  it("rebases on another window's edit of another field", async () => {
    const theirs = withAmps({ "load-2": 9 }, 2);
    const asked = fakeServer((one) => {
      if (one.method === "GET") return { body: theirs };
      if (one.headers.get("If-Match") === "1") return { status: 412, body: problem(412) };
      return { body: withAmps({ "load-1": 3, "load-2": 9 }, 3) };
    });
    const { editor, shown, idle } = setUp();
    editor.edit(amps("load-1", 3));
    await idle();
    expect(asked.map((item) => item.method)).toEqual(["PATCH", "GET", "PATCH"]);
    expect(shown().map((load) => load.receive_a.value)).toEqual([3, 9]);
    expect(editor.state.getState().collisions).toEqual([]);
  });

  it("asks when both windows changed the same field, and keeps mine when told", async () => {
    const theirs = withAmps({ "load-1": 9 }, 2);
    fakeServer((one) => {
      if (one.method === "GET") return { body: theirs };
      if (one.headers.get("If-Match") === "1") return { status: 412, body: problem(412) };
      return { body: withAmps({ "load-1": 3 }, 3) };
    });
    const { editor, shown, idle } = setUp();
    editor.edit(amps("load-1", 3));
    await idle();
    expect(shown()[0]?.receive_a.value).toBe(9);
    const collision = editor.state.getState().collisions[0];
    if (!collision) throw new Error("no collision was asked about");
    editor.settle(collision, true);
    await idle();
    expect(shown()[0]?.receive_a.value).toBe(3);
    expect(editor.state.getState().collisions).toEqual([]);
  });

  it("keeps what was refused beside its field, and saves the good edits of the batch", async () => {
    const bad = { pointer: "/draw/loads/0/receive_a/value", message: "is -5; it must be at least 0" };
    let revision = 1;
    const asked = fakeServer((one) => {
      const text = JSON.stringify(one.body);
      if (text.includes("-5")) return { status: 422, body: problem(422, [bad]) };
      return { body: withAmps({ "load-2": 7 }, ++revision) };
    });
    const { editor, shown, idle } = setUp();
    editor.edit(amps("load-1", -5), amps("load-2", 7));
    await idle();
    expect(asked).toHaveLength(3);
    expect(shown()[0]?.receive_a.value).toBe(0.5);
    expect(shown()[1]?.receive_a.value).toBe(7);
    const { faults, save } = editor.state.getState();
    expect(faults["/draw/loads/0/receive_a"]).toEqual({
      message: bad.message,
      value: { value: -5, basis: "stated" },
    });
    expect(save.kind).toBe("refused");
    editor.clearFault("/draw/loads/0/receive_a");
    expect(editor.state.getState().save.kind).toBe("saved");
  });

  it("keeps an edit while the server is away and sends it when it is back", async () => {
    vi.useFakeTimers({ shouldAdvanceTime: true });
    let away = true;
    fakeServer(() => (away ? new Error("no way there") : { body: withAmps({ "load-1": 3 }, 2) }));
    const { editor, shown } = setUp();
    editor.edit(amps("load-1", 3));
    await vi.waitFor(() => expect(editor.state.getState().save.kind).toBe("unreachable"));
    expect(shown()[0]?.receive_a.value).toBe(3);
    away = false;
    await vi.advanceTimersByTimeAsync(3500);
    await vi.waitFor(() => expect(editor.pending).toBe(false));
    expect(shown()[0]?.receive_a.value).toBe(3);
    editor.dispose();
  });

  it("says when the row of an edit is gone", async () => {
    const gone = designView([newLoad("load-2")], 2);
    fakeServer((one) => {
      if (one.method === "GET") return { body: gone };
      return { status: 412, body: problem(412) };
    });
    const { editor, shown, idle } = setUp();
    editor.edit(amps("load-1", 3));
    await idle();
    expect(shown().map((load) => load.id)).toEqual(["load-2"]);
    expect(editor.state.getState().save.kind).not.toBe("saving");
  });

  it("undoes after what was typed just before is saved", async () => {
    const asked = fakeServer((one) => ({
      body: one.method === "PATCH" ? withAmps({ "load-1": 3 }, 2) : withAmps({}, 3),
    }));
    const { editor, shown } = setUp();
    editor.edit(amps("load-1", 3));
    await editor.undo();
    expect(asked.map((item) => item.path)).toEqual(["/api/designs/d1", "/api/designs/d1/undo"]);
    expect(asked[1]?.headers.get("If-Match")).toBe("2");
    expect(shown()[0]?.receive_a.value).toBe(0.5);
  });
});

function problem(status: number, faults: { pointer: string; message: string }[] = []) {
  return { type: "urn:x", title: "No", status, detail: "", faults, current_revision: null };
}
