import { beforeEach, describe, expect, it } from "vitest";
import { fakeServer } from "../../test-server";
import { sendWaiting, useOutbox, type Waiting } from "./outbox";

const line = (key: string): Waiting => ({
  key,
  designId: "d1",
  said: `12.6 rest ${key}h`,
  who: "QY",
  taken_at: "2026-07-10T08:00:00Z",
});

beforeEach(() => {
  localStorage.clear();
  useOutbox.setState({ lines: [], refused: undefined });
});

describe("the outbox", () => {
  it("keeps lines where closing the page does not lose them", () => {
    useOutbox.getState().add(line("1"));
    expect(JSON.parse(localStorage.getItem("yonderstat.outbox") ?? "[]")).toEqual([line("1")]);
  });

  it("sends them in order, each under its own key, and forgets them", async () => {
    const asked = fakeServer(() => ({ body: {} }));
    useOutbox.getState().add(line("1"));
    useOutbox.getState().add(line("2"));
    expect(await sendWaiting()).toBe(2);
    expect(asked.map((one) => one.headers.get("Idempotency-Key"))).toEqual(["1", "2"]);
    expect(useOutbox.getState().lines).toEqual([]);
    expect(localStorage.getItem("yonderstat.outbox")).toBeNull();
  });

  it("keeps what a server that is down did not take, and lets go what it refuses", async () => {
    const problem = (status: number) => ({ type: "urn:x", title: "No", status, detail: "no", faults: [] });
    let status = 503;
    fakeServer(() => ({ status, body: problem(status) }));
    useOutbox.getState().add(line("1"));
    expect(await sendWaiting()).toBe(0);
    expect(useOutbox.getState().lines).toHaveLength(1);
    status = 422;
    await sendWaiting();
    expect(useOutbox.getState().lines).toEqual([]);
    expect(useOutbox.getState().refused).toContain("12.6 rest 1h");
  });
});
