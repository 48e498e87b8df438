import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { MemoryRouter } from "react-router";
import { expect, it } from "vitest";
import { fakeServer } from "../../test-server";
import { Alarms } from "./Alarms";
import { LiveLine } from "./LiveLine";
import { type Alarm, ago, clockTime, type LiveStrip } from "./useLive";

const ALARM: Alarm = {
  id: "a1",
  kind: "not_charging",
  title: "Not charging in the sun",
  severity: "fix",
  words: "0.0 A where a bright hour brings 8.1 A",
  raised_at: "2026-06-01T23:30:00Z",
  cleared_at: null,
  acknowledged_at: null,
  acknowledged_by: "",
};
const STRIP: LiveStrip = {
  site_id: "s1",
  design_id: "d1",
  now: {
    volts: 12.62,
    charge_a: 0,
    load_a: 1.4,
    charge_share: 0.71,
    box_c: null,
    device_at: "2026-06-01T23:30:00Z",
    heard_at: new Date().toISOString(),
  },
  trend: [0.9, 0.8, 0.71],
  alarms: [ALARM],
};
const READER = { is_down: false, beat_at: null, waiting: 0 };

function shown(element: React.ReactNode) {
  const cache = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  render(
    <QueryClientProvider client={cache}>
      <MemoryRouter>{element}</MemoryRouter>
    </QueryClientProvider>,
  );
}

it("a strip says now, trend, when it was heard, and what it warns of", () => {
  shown(<LiveLine strip={STRIP} reader={READER} />);
  expect(screen.getByText(/71\s*%/)).toBeVisible();
  expect(screen.getByRole("img", { name: /falling, from 90 to 71 %/ })).toBeVisible();
  expect(screen.getByText(/last reading \d s ago/)).toBeVisible();
  expect(screen.getByText("Not charging in the sun")).toBeVisible();
  expect(screen.queryByText(/reader is down/)).toBeNull();
});

it("a reader that is down and a site nobody heard of are said", () => {
  shown(<LiveLine strip={{ ...STRIP, now: null, alarms: [] }} reader={{ ...READER, is_down: true }} />);
  expect(screen.getByText("No readings yet.")).toBeVisible();
  expect(screen.getByText(/Live readings have stopped/)).toBeVisible();
});

it("an alarm is acknowledged with the person's initials, and one that is over stands apart", async () => {
  localStorage.setItem("yonderstat.initials", "QY3RIM");
  const asked = fakeServer(() => ({ body: { ...ALARM, acknowledged_by: "QY3RIM" } }));
  const over = { ...ALARM, id: "a0", kind: "silent", title: "No data", cleared_at: "2026-06-01T20:00:00Z" };
  shown(<Alarms alarms={[ALARM, over]} zone="Pacific/Auckland" />);
  expect(screen.getByText("1 open alarm")).toBeVisible();
  expect(screen.getByText("2 Jun, 11:30")).toBeVisible();
  expect(screen.getByRole("link", { name: "If something breaks" })).toHaveAttribute(
    "href",
    expect.stringContaining("rehearse?page=lost"),
  );
  await userEvent.click(screen.getByRole("button", { name: "Acknowledge: Not charging in the sun" }));
  expect(asked.map((one) => [one.path, one.body])).toEqual([
    ["/api/alarms/a1/acknowledge", { who: "QY3RIM" }],
  ]);
  expect(screen.getByText("Cleared alarms: 1")).toBeVisible();
});

it("time is told by the site's clock, and how long ago in words", () => {
  expect(clockTime("2026-06-01T23:30:00Z", "Pacific/Auckland")).toBe("2 Jun, 11:30");
  const now = Date.parse("2026-06-01T12:00:00Z");
  const before = (seconds: number) => new Date(now - seconds * 1000).toISOString();
  expect([5, 600, 18_000, 900_000].map((seconds) => ago(before(seconds), now))).toEqual([
    "5 s ago",
    "10 min ago",
    "5 h ago",
    "10 days ago",
  ]);
});
