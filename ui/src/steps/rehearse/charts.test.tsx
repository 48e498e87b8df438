import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { components } from "../../api/schema";
import { MapFront } from "./MapFront";
import { MapGrid } from "./MapGrid";
import { Timeline } from "./Timeline";

type Scene = components["schemas"]["SceneReport"];
type SizingMap = components["schemas"]["SizingMap"];

describe("Timeline", () => {
  const hour = { sun_w_m2: 100, charge_share: 0.5, bus_v: 12.6, source_a: 2, wanted_a: 1 };
  const lane = (id: string, hours: string) => ({ id, name: id, tier: "vital", hours });
  const report = {
    sentence: "It goes dark.",
    hours: Array.from({ length: 24 }, () => hour),
    lanes: [lane("HF radio", `${"o".repeat(18)}${"d".repeat(6)}`), lane("Lights", `${"s".repeat(24)}`)],
  } as unknown as Scene;

  it("counts every hour of a load in the table beside the picture", () => {
    render(<Timeline report={report} name="Outage" />);
    expect(screen.getByRole("application")).toHaveAccessibleName(/It goes dark/);
    const row = within(screen.getByRole("row", { name: /HF radio/, hidden: true }));
    const cells = row.getAllByRole("cell", { hidden: true }).map((cell) => cell.textContent);
    expect(cells).toEqual(["18", "0", "0", "0", "0", "0", "6"]);
  });

  it("reads an hour out in all lanes with the arrows", async () => {
    render(<Timeline report={report} name="Outage" />);
    screen.getByRole("application").focus();
    await userEvent.keyboard("{ArrowRight}{ArrowRight}");
    expect(screen.getByText(/50\s?% left, 12.6\s?V/)).toHaveTextContent(
      /^day 1, 01:00.*served: HF radio; shed: Lights$/,
    );
    await userEvent.keyboard("{PageDown}");
    expect(screen.getByText(/50\s?% left/)).toHaveTextContent(/^day 1, 23:00.*dark: HF radio/);
  });

  it("draws neighbouring hours alike as one bar, and names only what happens", () => {
    const { container } = render(<Timeline report={report} name="Outage" />);
    const bars = [...container.querySelectorAll("rect > title")].map((title) => title.textContent);
    expect(bars).toEqual(["HF radio: served, 18 h", "HF radio: dark, 6 h", "Lights: shed, 24 h"]);
    expect(screen.queryByText("waits for the sun")).not.toBeInTheDocument();
  });
});

describe("MapGrid", () => {
  const map = {
    sentence: "More panel.",
    string: "Roof",
    panels: [1, 2],
    batteries: [1, 2],
    watts: [100, 200],
    amp_hours: [50, 100],
    served: [
      [0.5, 0.8],
      [0.9, 0.9995],
    ],
    cost: [
      [1, 2],
      [3, 4],
    ],
    kg: [6, 12],
    allowed: [
      [true, true],
      [true, false],
    ],
    here: { watts: 100, amp_hours: 50, panels: 1, batteries: 1 },
    cheapest: null,
    front: [],
    best_for_sum: null,
    shelf_watts: null,
    share_of: "the time with power",
    priced: false,
    currency: "",
    target: 0.99,
    years: 3,
  } as unknown as SizingMap;

  it("is read with the arrows and stops at its edges", async () => {
    render(<MapGrid map={map} />);
    expect(
      screen.getByText(/50.0 % of the time with power, 1.0 times the cost of what you have/),
    ).toHaveTextContent(/^1 in parallel, 100\s?W, and 1 in parallel, 50/);
    screen.getByRole("application").focus();
    await userEvent.keyboard("{ArrowRight}");
    expect(screen.getByText(/80.0 % of the time with power/)).toHaveTextContent(
      /^2 in parallel, 200\s?W, and 1 in parallel, 50/,
    );
    await userEvent.keyboard("{ArrowRight}{ArrowDown}");
    expect(screen.getByText(/80.0 % of the time with power/)).toBeInTheDocument();
    await userEvent.keyboard("{ArrowUp}");
    expect(screen.getByText(/99.95 % of the time with power/)).toHaveTextContent(/over a limit$/);
  });

  it("says what service costs at least, and draws what you have on it", () => {
    const front = [
      { cost: 1, share: 0.5 },
      { cost: 3, share: 0.9 },
    ];
    const { container } = render(
      <MapFront map={{ ...map, here: { ...map.here, cost: 2, share: 0.8 }, front }} />,
    );
    expect(screen.getByRole("img")).toHaveAccessibleName(/from 1.0 for 50 % to 3.0 for 90.0 %/);
    expect(Number(container.querySelector("circle")?.getAttribute("cx"))).toBe(64 + (432 * 2) / 3);
  });
});
