import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { ReactNode } from "react";
import { MemoryRouter, Route, Routes } from "react-router";
import { describe, expect, it, vi } from "vitest";
import type { DesignView, Finding } from "../api/client";
import { DesignEditor } from "../api/designWire";
import { Margin } from "../app/Margin";
import { useAttention } from "../kit/attention";
import { DeskContext } from "../kit/context";
import { designView, newLoad } from "../test-design";
import { fakeServer } from "../test-server";
import { LogImport } from "./draw/LogImport";
import { PowerTable } from "./draw/PowerTable";
import { TableImport } from "./draw/TableImport";
import { WhenFields } from "./draw/WhenFields";
import { NewSiteForm } from "./sites/NewSiteForm";
import { HorizonField } from "./sun/HorizonField";

function setUp(children: ReactNode, view = designView()) {
  const cache = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const editor = new DesignEditor("d1", cache);
  const edit = vi.spyOn(editor, "edit").mockImplementation(() => undefined);
  const page = (shown: DesignView) => (
    <QueryClientProvider client={cache}>
      <MemoryRouter>
        <DeskContext.Provider value={{ view: shown, editor }}>
          <Routes>
            <Route path="/" element={children} />
            <Route path="/designs/:id/:step" element={<p>the design is open</p>} />
          </Routes>
        </DeskContext.Provider>
      </MemoryRouter>
    </QueryClientProvider>
  );
  const { rerender } = render(page(view));
  return { edit, show: (next: DesignView) => rerender(page(next)) };
}

const load = { ...newLoad("load-1"), transmit_a: { value: 22, basis: "label" as const } };

describe("NewSiteForm", () => {
  const choice = (value: string) => [{ value, label: value, hint: "" }];
  const catalogue = { kinds: choice("home"), purposes: choice("standby") };

  it("says what is wrong with a place beside it, and keeps what was typed", async () => {
    const fault = { pointer: "/text", message: "ZZ99 is not a grid locator" };
    const problem = { type: "urn:x", title: "No", status: 422, detail: fault.message, faults: [fault] };
    const asked = fakeServer((one) =>
      one.path === "/api/catalogue" ? { body: catalogue } : { status: 422, body: problem },
    );
    setUp(<NewSiteForm onClose={() => undefined} />);
    await userEvent.type(screen.getByLabelText("Name"), "Hill");
    await userEvent.type(screen.getByLabelText(/Place/), "ZZ99{Enter}");
    expect(await screen.findByText("ZZ99 is not a grid locator")).toBeVisible();
    expect(screen.getByLabelText(/Place/)).toHaveValue("ZZ99");
    expect(asked.every((one) => one.method === "GET")).toBe(true);
  });

  it("asks for a name, then makes the site once and opens it", async () => {
    const asked = fakeServer((one) => {
      if (one.path === "/api/catalogue") return { body: catalogue };
      if (one.path === "/api/place") return { body: { latitude_deg: -43, longitude_deg: 171 } };
      return { status: 201, body: { id: "s", name: "Hill", designs: [{ id: "d9" }] } };
    });
    setUp(<NewSiteForm onClose={() => undefined} />);
    await userEvent.click(screen.getByRole("button", { name: "Create" }));
    expect(await screen.findByText(/Type a name, such as/)).toBeVisible();
    await userEvent.type(screen.getByLabelText("Name"), "Hill");
    await userEvent.type(screen.getByLabelText(/Place/), "RE56tv{Enter}");
    expect(await screen.findByText("the design is open")).toBeVisible();
    const made = asked.filter((one) => one.method === "POST");
    expect(made).toHaveLength(1);
    expect(made[0]?.headers.get("Idempotency-Key")).toBeTruthy();
    expect(made[0]?.body).toMatchObject({ name: "Hill", place: { latitude_deg: -43, longitude_deg: 171 } });
  });
});

describe("TableImport", () => {
  const table = {
    columns: ["name", "receive_a"],
    had_heading: true,
    loads: [newLoad("load-9")],
    faults: [],
    headings: ["name", "amps"],
    unknown: [] as string[],
  };

  it("previews before anything changes, then adds", async () => {
    fakeServer(() => ({ body: table }));
    const { edit } = setUp(<TableImport />);
    await userEvent.type(screen.getByLabelText("Table of loads to paste"), "x");
    expect(await screen.findByText(/Columns found by their headings: name, receive_a/)).toBeVisible();
    expect(edit).not.toHaveBeenCalled();
    await userEvent.click(screen.getByRole("button", { name: "Add this load" }));
    const value = [newLoad("load-1"), newLoad("load-2"), newLoad("load-9")];
    expect(edit).toHaveBeenCalledWith({ kind: "set", path: ["draw", "loads"], value });
  });

  it("lists every fault by line and offers nothing", async () => {
    const faults = [{ line: 3, column: "receive_a", message: "“lots” is not a number" }];
    fakeServer(() => ({ body: { ...table, faults } }));
    setUp(<TableImport />);
    await userEvent.type(screen.getByLabelText("Table of loads to paste"), "x");
    expect(await screen.findByText("line 3, receive_a: “lots” is not a number")).toBeVisible();
    expect(screen.queryByRole("button")).toBeNull();
  });
});

describe("LogImport", () => {
  const activity = [{ day: "2025-06-14", hour: 18, band: "40m", mode: "ssb", contacts: 2 }];
  const proposal = {
    tempo: { id: "as-logged", name: "From your contact log", transmit_share: null, overrides: [] },
    days: 1,
    contacts: 4,
    unplaced: 1,
    by_band: [{ band: "40m", mode: "ssb", contacts: 4 }],
    loads: [
      {
        load_id: "load-1",
        name: "HF",
        contacts: 4,
        hours_per_day: 1,
        transmit_share: 0.1,
        by_hour: Array(24).fill(1),
      },
    ],
  };
  const overs = [{ mode: "ssb", over_s: 25, overs: 4 }];
  const digest = {
    contacts: 2,
    activity,
    malformed: [{ record: 1, why: "is cut short" }],
    malformed_count: 1,
  };

  it("adds the parts of a long log up, and applies only when accepted", async () => {
    const asked = fakeServer((one) => ({ body: one.path.endsWith("digest") ? digest : { proposal, overs } }));
    const view = designView();
    Object.assign(view.document.draw, { tempos: [] });
    const { edit } = setUp(<LogImport />, view);
    const record = `<CALL:1>Q${" ".repeat(600_000)}<EOR>`;
    await userEvent.upload(
      screen.getByLabelText("Contact log file"),
      new File([record, record, record], "log.adi"),
    );
    expect(
      await screen.findByText(/4 contacts in 1 day\. 40m SSB speech 4\. 1 on bands that no radio/),
    ).toBeVisible();
    const sent = asked.find((one) => one.path.endsWith("logged-tempo"))?.body as {
      activity: { contacts: number }[];
    };
    expect(asked.filter((one) => one.path.endsWith("digest"))).toHaveLength(2);
    expect(sent.activity.map((item) => item.contacts)).toEqual([4]);
    expect(screen.getByText("2 records skipped: not readable")).toBeVisible();
    expect(edit).not.toHaveBeenCalled();
    await userEvent.click(screen.getByRole("button", { name: "Use “From your contact log” for sizing" }));
    expect(edit).toHaveBeenCalledWith(
      { kind: "set", path: ["draw", "tempos"], value: [proposal.tempo] },
      { kind: "set", path: ["draw", "sized_on"], value: "as-logged" },
    );
  });

  it("asks again when the assumption is changed", async () => {
    const asked = fakeServer((one) => ({ body: one.path.endsWith("digest") ? digest : { proposal, overs } }));
    setUp(<LogImport />);
    await userEvent.upload(screen.getByLabelText("Contact log file"), new File(["<EOR>"], "log.adi"));
    const field = await screen.findByLabelText("SSB speech: seconds of an over");
    await userEvent.clear(field);
    await userEvent.type(field, "40");
    await userEvent.tab();
    await waitFor(() =>
      expect(asked.at(-1)?.body).toMatchObject({ overs: [{ mode: "ssb", over_s: 40, overs: 4 }] }),
    );
  });
});

describe("fields of a load and of the sun", () => {
  it("PowerTable takes pairs and refuses halves", async () => {
    const { edit } = setUp(<PowerTable load={load} />);
    const field = screen.getByLabelText("Current at each power");
    await userEvent.type(field, "10 W 5 A, 50 W{Enter}");
    expect(screen.getByRole("alert")).toHaveTextContent("type pairs of watts and amps");
    expect(edit).not.toHaveBeenCalled();
    await userEvent.clear(field);
    await userEvent.type(field, "10 W 5 A, 50 W 12{Enter}");
    const value = [
      { watts: 10, amps: 5 },
      { watts: 50, amps: 12 },
    ];
    expect(edit).toHaveBeenCalledWith(expect.objectContaining({ value }));
  });

  it("WhenFields leaves one way of saying when", async () => {
    fakeServer(() => ({ body: { firsts: { events: { per_day: 6, minutes: 10 } } } }));
    const view = designView();
    Object.assign(view.report, { draw: { loads: [{ id: load.id, guessed_hours: "in the evening" }] } });
    const { edit } = setUp(<WhenFields load={load} />, view);
    expect(screen.getByText(/We assume it runs in the evening/)).toBeVisible();
    await waitFor(() => expect(screen.getByLabelText("When it runs")).toBeEnabled());
    await userEvent.selectOptions(screen.getByLabelText("When it runs"), "events");
    const set = edit.mock.calls[0]?.map((one) => [one.path.at(-1), "value" in one ? one.value : undefined]);
    expect(set).toEqual([
      ["pattern", null],
      ["events", { per_day: 6, minutes: 10 }],
      ["thermostat", null],
    ]);
  });

  it("HorizonField reads pairs and says what is not one", async () => {
    const view = designView();
    Object.assign(view.document, { sun: { horizon: [] } });
    const { edit } = setUp(<HorizonField />, view);
    const field = screen.getByLabelText(/Skyline/);
    await userEvent.type(field, "290 30 5{Enter}");
    expect(screen.getByRole("alert")).toHaveTextContent("“290 30 5” is not a direction and a height");
    await userEvent.clear(field);
    await userEvent.type(field, "290° 30°, 330 30{Enter}");
    const value = [
      { azimuth_deg: 290, elevation_deg: 30 },
      { azimuth_deg: 330, elevation_deg: 30 },
    ];
    expect(edit).toHaveBeenCalledWith({ kind: "set", path: ["sun", "horizon"], value });
  });
});

it("a remedy in the margin becomes edits", async () => {
  const view = designView();
  const patch = [{ op: "replace" as const, path: "/array/strings/0/tilt_deg", value: 65 }];
  view.report.findings = [
    {
      id: "a",
      severity: "fix",
      muted: "",
      claims: [],
      alike: "",
      step: "array",
      sentence: "Too flat",
      why: "Because.",
      pointer: "",
      remedies: [{ label: "Tilt 65°", effect: "67 % of June", patch, gain: null }],
    },
    {
      id: "b",
      severity: "mind",
      muted: "",
      claims: [],
      alike: "",
      step: "draw",
      sentence: "Elsewhere",
      why: "Because.",
      pointer: "",
      remedies: [],
    },
  ];
  useAttention.setState({ open: true, tab: "findings" });
  const { edit } = setUp(<Margin step="array" />, view);
  expect(screen.queryByText("Elsewhere")).toBeNull();
  await userEvent.click(screen.getByLabelText("Findings of all steps (2)"));
  expect(screen.getByText("Elsewhere")).toBeVisible();
  await userEvent.click(screen.getByRole("button", { name: /Tilt 65°/ }));
  expect(edit).toHaveBeenCalledWith({ kind: "set", path: ["array", "strings", 0, "tilt_deg"], value: 65 });
});

const TILTED = [{ op: "replace" as const, path: "/array/strings/0/tilt_deg", value: 65 }];
const STEEPER = [{ label: "Tilt 65°", effect: "67 % of June", patch: TILTED, gain: null }];

function tooFlat(remedies: object[]) {
  const said = { sentence: "Too flat", why: "Because.", pointer: "" };
  return [{ id: "a", severity: "fix", muted: "", step: "array", ...said, remedies }] as Finding[];
}

it("remedies are asked for after the verdict, and those of before cannot be pressed meanwhile", async () => {
  const asked = fakeServer(() => ({ body: { revision: 2, findings: tooFlat(STEEPER) } }));
  const before = designView();
  before.report.findings = tooFlat([{ ...STEEPER[0], effect: "of before" }]);
  useAttention.setState({ open: true, tab: "findings" });
  const { show } = setUp(<Margin step="array" />, before);
  expect(screen.getByRole("button", { name: /of before/ })).toBeVisible();
  const after = { ...designView(undefined, 2) };
  show({ ...after, report: { ...after.report, findings: tooFlat([]), remedies: "later" } });
  expect(screen.queryByRole("button", { name: /Tilt 65°/ })).toBeNull();
  expect(screen.getByText(/Tilt 65°/)).toHaveTextContent("checking again");
  expect(await screen.findByRole("button", { name: /Tilt 65°/ })).toHaveTextContent("67 % of June");
  expect(asked.map((one) => one.path)).toEqual([`/api/designs/${before.id}/findings`]);
});

it("remedies that do not come are not shown, nor those of before", async () => {
  fakeServer(() => new Error("the server is away"));
  const before = designView();
  before.report.findings = tooFlat(STEEPER);
  useAttention.setState({ open: true, tab: "findings" });
  const { show } = setUp(<Margin step="array" />, before);
  const after = designView(undefined, 2);
  show({ ...after, report: { ...after.report, findings: tooFlat([]), remedies: "later" } });
  expect(screen.getByText(/Tilt 65°/)).toBeVisible();
  await waitFor(() => expect(screen.queryByText(/Tilt 65°/)).toBeNull());
  expect(screen.getByText("Too flat")).toBeVisible();
});
