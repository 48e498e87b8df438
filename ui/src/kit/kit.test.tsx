import { QueryClient } from "@tanstack/react-query";
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { ReactNode } from "react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Finding } from "../api/client";
import { DesignEditor } from "../api/designWire";
import { WorkingPanel } from "../app/WorkingPanel";
import { partsOf } from "../steps/draw/useContactLog";
import { designView, newLoad, quantity } from "../test-design";
import { useAttention } from "./attention";
import { DeskContext } from "./context";
import { Figure } from "./Figure";
import { NumberField, TextField } from "./fields";
import { worstOf } from "./Mark";
import { MonthStrip } from "./MonthStrip";
import { useSettings } from "./settings";

const view = designView();
const AMPS = ["draw", "loads", { id: "load-1" }, "receive_a"] as const;

function setUp(children: ReactNode) {
  const editor = new DesignEditor("d1", new QueryClient());
  const edit = vi.spyOn(editor, "edit").mockImplementation(() => undefined);
  const page = render(<DeskContext.Provider value={{ view, editor }}>{children}</DeskContext.Provider>);
  return { edit, editor, page };
}

beforeEach(() => {
  useSettings.setState({ units: { length: "metric", temperature: "C" } });
  useAttention.setState({ trail: [], tab: "findings", open: true });
});

describe("NumberField", () => {
  const field = <NumberField label="On" path={AMPS} dimension="amps" known />;

  it("takes what is typed, in SI, as typed in", async () => {
    const { edit } = setUp(field);
    await userEvent.type(screen.getByLabelText("On"), "450 mA{Enter}");
    expect(edit).toHaveBeenCalledWith({ kind: "set", path: AMPS, value: { value: 0.45, basis: "stated" } });
  });

  it("takes it once, though Enter moves on and leaving the field takes it too", async () => {
    const { edit } = setUp(
      // biome-ignore lint/a11y/noStaticElementInteractions: it stands for a table whose Enter moves to the next cell
      <div onKeyDown={(event) => event.key === "Enter" && (event.target as HTMLElement).blur()}>{field}</div>,
    );
    await userEvent.type(screen.getByLabelText("On"), "3{Enter}");
    expect(edit).toHaveBeenCalledTimes(1);
  });

  it("keeps what it cannot read and says why", async () => {
    const { edit } = setUp(field);
    const input = screen.getByLabelText("On");
    await userEvent.type(input, "12 parsecs");
    await userEvent.tab();
    expect(edit).not.toHaveBeenCalled();
    expect(input).toHaveValue("12 parsecs");
    expect(input).toHaveAttribute("aria-invalid", "true");
    expect(screen.getByRole("alert")).toHaveTextContent("We can’t use the unit “parsecs”");
  });

  it("keeps it also when the field was gone and came back", async () => {
    const { editor, page } = setUp(field);
    await userEvent.type(screen.getByLabelText("On"), "three");
    await userEvent.tab();
    page.unmount();
    render(<DeskContext.Provider value={{ view, editor }}>{field}</DeskContext.Provider>);
    expect(screen.getByLabelText("On")).toHaveValue("three");
    expect(screen.getByRole("alert")).toHaveTextContent("We can’t read “three” as a number");
    await userEvent.type(screen.getByLabelText("On"), "{Escape}");
    expect(editor.state.getState().unread).toEqual({});
  });

  it("says a limit in the units of the field", () => {
    const { editor, page } = setUp(null);
    const share = ["draw", "loads", { id: "load-1" }, "transmit_share"] as const;
    const bound = { given: 1.2, word: "at most" as const, limit: 1 };
    const fault = { message: "is 1.2; it must be at most 1", bound };
    editor.state.setState({ faults: { "/draw/loads/0/transmit_share": fault } });
    page.unmount();
    render(
      <DeskContext.Provider value={{ view, editor }}>
        <NumberField label="Key" path={share} dimension="share" known />
      </DeskContext.Provider>,
    );
    expect(screen.getByRole("alert")).toHaveTextContent(/is 120\s?%; it must be at most 100\s?%/);
  });

  it("takes a guess that is typed again as known", async () => {
    const guess = designView([{ ...newLoad("load-1"), receive_a: { value: 22, basis: "default" } }]);
    const editor = new DesignEditor("d1", new QueryClient());
    const edit = vi.spyOn(editor, "edit").mockImplementation(() => undefined);
    render(<DeskContext.Provider value={{ view: guess, editor }}>{field}</DeskContext.Provider>);
    await userEvent.clear(screen.getByLabelText("On"));
    await userEvent.type(screen.getByLabelText("On"), "22{Enter}");
    expect(edit).toHaveBeenCalledWith({ kind: "set", path: AMPS, value: { value: 22, basis: "stated" } });
  });

  it("goes back on Escape", async () => {
    const { edit } = setUp(field);
    const input = screen.getByLabelText("On");
    await userEvent.type(input, "7{Escape}");
    expect(input).toHaveValue("0.5");
    await userEvent.tab();
    expect(edit).not.toHaveBeenCalled();
  });

  it("empties to “not given” only where that means something", async () => {
    const { edit } = setUp(
      <NumberField label="On" path={AMPS} dimension="amps" known optional fallback={2} />,
    );
    await userEvent.clear(screen.getByLabelText("On"));
    await userEvent.tab();
    expect(edit).toHaveBeenCalledWith({ kind: "set", path: AMPS, value: null });
  });

  it("marks a guess and lets its basis be told", async () => {
    const { edit } = setUp(field);
    expect(screen.getByLabelText("On")).toHaveClass("guess");
    await userEvent.selectOptions(screen.getByLabelText("On: how it is known"), "measured");
    expect(edit).toHaveBeenCalledWith({ kind: "set", path: AMPS, value: { value: 0.5, basis: "measured" } });
  });
});

it("TextField says nothing when nothing changed", async () => {
  const { edit } = setUp(<TextField label="Name" path={["name"]} />);
  await userEvent.type(screen.getByLabelText("Name"), "{Enter}");
  expect(edit).not.toHaveBeenCalled();
});

describe("Figure", () => {
  it("opens its working", async () => {
    setUp(<Figure of={view.report.working["draw.daily_ah"]} />);
    await userEvent.click(screen.getByRole("button", { name: "Drawn a day: 24 Ah. Show working" }));
    expect(useAttention.getState()).toMatchObject({ tab: "working", trail: ["draw.daily_ah"] });
  });

  it("says why there is no number", () => {
    setUp(<Figure of={quantity("x", null, "d", { label: "Days", note: "there is no end to it" })} />);
    expect(screen.getByRole("button")).toHaveAccessibleName(
      "Days: never runs out, there is no end to it. Show working",
    );
    expect(screen.getByRole("button")).toHaveTextContent("never runs out");
  });
});

describe("WorkingPanel", () => {
  it("shows formula, inputs and origin, and walks into what was worked out", async () => {
    useAttention.setState({ trail: ["draw.daily_ah"] });
    setUp(<WorkingPanel />);
    expect(screen.getByRole("heading")).toHaveTextContent("Drawn a day");
    expect(screen.getByText("our guess")).toBeVisible();
    expect(screen.getByText("Common practice")).toBeVisible();
    await userEvent.click(screen.getByRole("button", { name: /^mean: 1\u2009A/ }));
    expect(screen.getByRole("heading")).toHaveTextContent("Mean current");
    await userEvent.click(screen.getByRole("button", { name: "← Drawn a day" }));
    expect(screen.getByRole("heading")).toHaveTextContent("Drawn a day");
  });
});

it("MonthStrip tells each month in words", () => {
  const months = Array.from({ length: 12 }, (_, index) => ({
    month: index + 1,
    in_use: index !== 0,
    share: index === 1 ? "feb" : null,
  }));
  const verdict = { months, hard_month: 2, share_of: "draw covered" } as never;
  render(<MonthStrip verdict={verdict} figures={{ feb: quantity("feb", 0.456, "share") }} />);
  expect(screen.getByRole("button", { name: "February: 46 % draw covered. Show working" })).toBeVisible();
  expect(screen.getByText("January: not in use")).toBeInTheDocument();
  expect(screen.getByText("March: not known")).toBeInTheDocument();
});

it("worstOf leaves good news out", () => {
  const of = (severity: Finding["severity"]) => ({ severity }) as Finding;
  expect(worstOf([of("good"), of("mind"), of("fix")])).toBe("fix");
  expect(worstOf([of("good")])).toBeUndefined();
});

describe("partsOf", () => {
  it("cuts only after a record, and loses nothing", () => {
    const text = `head <EOH>${"<CALL:1>Q<eor>\n".repeat(50)}`;
    const parts = partsOf(text, 100);
    expect(parts.length).toBeGreaterThan(3);
    expect(parts.every((part) => /<eor>$/i.test(part.trim()))).toBe(true);
    expect(parts.join("").trimEnd()).toBe(text.trimEnd());
  });
  it("leaves a text without records whole", () => {
    expect(partsOf("nothing here", 5)).toEqual(["nothing here"]);
  });
});
