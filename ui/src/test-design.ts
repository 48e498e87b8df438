import type { DesignView, Load, Quantity } from "./api/client";

/** A load with nothing but a name, as the server's table of firsts has it. */
export function newLoad(id: string): Load {
  return {
    id,
    name: "New load",
    kind: "other",
    quantity: 1,
    standby_a: null,
    receive_a: { value: 0.5, basis: "default" },
    receive_w: null,
    transmit_a: null,
    transmit_share: { value: 0, basis: "default" },
    rated_w: null,
    power_w: null,
    power_table: [],
    power_cap_w: null,
    power_cap_reason: "",
    mode: null,
    behaviour: "constant_current",
    rail: "bus",
    window: "none",
    least_v: null,
    most_v: null,
    hours_per_day: { value: 24, basis: "default" },
    pattern: null,
    events: null,
    thermostat: null,
    months: [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12],
    tier: "useful",
    interlock: "",
    deferrable: false,
    needs: [],
    restarts: "unknown",
    ready_min: null,
    waits_for: null,
  };
}

/** A figure with nothing behind it. */
export function quantity(
  key: string,
  value: number | null,
  unit: string,
  more: Partial<Quantity> = {},
): Quantity {
  return {
    key,
    value,
    unit,
    label: key,
    formula: "x",
    words: "as it is",
    inputs: [],
    source: "",
    note: "",
    ...more,
  };
}

/** A small design as the server would send it; only what the parts under test look at is filled in. */
export function designView(loads: Load[] = [newLoad("load-1"), newLoad("load-2")], revision = 1): DesignView {
  const working = {
    "draw.daily_ah": quantity("draw.daily_ah", 24, "A·h", {
      label: "Drawn a day",
      source: "practice",
      inputs: [
        {
          symbol: "I",
          label: "mean",
          value: 1,
          unit: "A",
          origin: "computed",
          ref: "mean",
          pointer: "",
          source: "",
        },
        {
          symbol: "h",
          label: "hours",
          value: 24,
          unit: "h",
          origin: "default",
          ref: "",
          pointer: "/x",
          source: "",
        },
      ],
    }),
    mean: quantity("mean", 1, "A", { label: "Mean current" }),
  };
  const view = {
    id: "d1",
    site_id: "s1",
    site_name: "Quay Street",
    as_built: true,
    revision,
    saved_at: "2026-01-01T00:00:00Z",
    can_undo: false,
    can_redo: false,
    document: { name: "A", draw: { loads }, place: { latitude_deg: -44 } },
    report: {
      working,
      findings: [],
      cautions: [],
      sources: { practice: { title: "Common practice", mark: "C" } },
    },
  };
  return view as unknown as DesignView;
}
