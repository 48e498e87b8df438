import { useNavigate } from "react-router";
import type { DesignView } from "../../api/client";
import { useAttention } from "../../kit/attention";
import { useShown } from "../../kit/fields";
import { MONTHS } from "../../kit/MonthStrip";
import { roughly } from "../../kit/units";
import { namesOf } from "./names";
import { Table } from "./Table";

/** The figures set side by side: a name and the figure's key in a report. */
const FIGURES: [string, (view: DesignView) => string | null | undefined][] = [
  ["Usable", ({ report }) => report.store?.usable_ah],
  ["Usable energy", ({ report }) => report.store?.usable_wh],
  ["Days without sun", ({ report }) => report.store?.days_without_sun],
  ["Used per day", ({ report }) => report.draw.daily_ah],
  ["Sun on the panels, worst month", ({ report }) => report.energy_line.sun_hours],
  ["Into the battery per day, worst month", ({ report }) => report.energy_line.array_wh],
  ["Short per day, worst month (minus means spare)", ({ report }) => report.energy_line.gap_wh],
  ["Volts at the lowest radio, transmitting, lowest charge", ({ report }) => report.bus.lowest_v],
  ["To buy, at least", ({ report }) => report.build.sum_low],
  ["To buy, at most", ({ report }) => report.build.sum_high],
  ["Weight (parts with a known weight)", ({ report }) => report.build.weight_kg],
  ["Weight on the hitch", ({ report }) => report.build.balance?.nose_kg],
];

/** A figure of one of them: pressing it opens that design with the figure's working. */
function Asked({ view, figureKey, text }: { view: DesignView; figureKey: string; text: string }) {
  const navigate = useNavigate();
  const ask = useAttention((attention) => attention.ask);
  return (
    <button
      type="button"
      className="figure"
      aria-label={`${text}, ${view.document.name}. Show working`}
      onClick={() => {
        ask(figureKey);
        navigate(`/designs/${view.id}/brief`);
      }}
    >
      {text}
    </button>
  );
}

export function Figures({ views }: { views: DesignView[] }) {
  const show = useShown();
  const textOf = (view: DesignView, key: string | null | undefined) => {
    const figure = view.report.working[key ?? ""];
    if (!figure) return "–";
    const { sum_low, sum_high, lines } = view.report.build;
    const isGuess = (key === sum_low || key === sum_high) && lines.some((line) => line.guess_low);
    return show(isGuess && figure.value !== null ? roughly(figure.value) : figure.value, figure.unit);
  };
  const rows = [
    {
      name: "Worst month",
      texts: views.map((view) => MONTHS[view.report.verdict.hard_month - 1] ?? ""),
    },
    ...FIGURES.filter(([, key]) => views.some((view) => key(view))).map(([name, key]) => ({
      name,
      texts: views.map((view) => textOf(view, key(view))),
    })),
  ];
  return (
    <Table
      label="Figures side by side"
      heads={namesOf(views)}
      rows={rows}
      cell={({ name }, text, side) => {
        const view = views[side];
        const key = view && FIGURES.find(([label]) => label === name)?.[1](view);
        return view && key && view.report.working[key] ? (
          <Asked view={view} figureKey={key} text={text} />
        ) : (
          text
        );
      }}
    />
  );
}
