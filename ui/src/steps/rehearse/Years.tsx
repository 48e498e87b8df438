import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";
import { useShown } from "../../kit/fields";
import { Part, Wide } from "../../kit/layout";
import { MonthTable } from "../../kit/MonthTable";

type Report = components["schemas"]["YearsReport"];
const TIERS = [
  ["vital", "Vital"],
  ["useful", "Useful"],
  ["comfort", "Comfort"],
] as const;

const percent = (share: number | null | undefined) =>
  share === null || share === undefined
    ? "–"
    : `${(share * 100).toFixed(share > 0.999 || share < 0.1 ? 0 : 1)} %`;

function useYears() {
  const { view } = useDesk();
  return useQuery({
    queryKey: ["years", view.id, view.revision],
    placeholderData: (before) => before,
    queryFn: () =>
      answer(client.GET("/api/designs/{design_id}/years", { params: { path: { design_id: view.id } } })),
  });
}

function Fact({ value, label }: { value: string; label: string }) {
  return (
    <div className="min-w-0">
      <p className="text-[28px] leading-8 font-[640]">{value}</p>
      <p className="text-[12px] text-ink2">{label}</p>
    </div>
  );
}

function Chance({ chance }: { chance: number }) {
  return (
    <span className="relative block h-6 leading-6">
      <span className="absolute inset-px bg-good" style={{ opacity: 0.45 * chance }} aria-hidden="true" />
      <span className="relative">{Math.round(chance * 100)}</span>
    </span>
  );
}

/** The chance of getting through, by start month and days, full at the start, vital loads alone. */
function Carry({ report }: { report: Report }) {
  return (
    <Part
      title="Carry-through"
      note={`chance of no dark vital hour from a full bank, vital loads alone, over ${report.years} years of starts`}
    >
      <Wide label="Carry-through by start month and days">
        <div className="min-w-[32rem]">
          <MonthTable
            firstColumn="w-16"
            rows={report.lengths_d.map((days, row) => [
              days === 1 ? "1 day" : `${days} days`,
              report.carry.map((month, index) => <Chance key={index} chance={month[row] ?? 0} />),
            ])}
          />
        </div>
      </Wide>
      <p className="mt-1 text-[12px] text-ink2">
        Per cent of starts. 100 means every start in {report.years} years.
      </p>
    </Part>
  );
}

/** All weather years: what is served, how long it is dark. */
export function Years() {
  const { view } = useDesk();
  const show = useShown();
  const { data, error, isPending } = useYears();
  const report = data?.report;
  if (error) {
    return (
      <p role="alert" className="py-4 text-stop">
        The years cannot be rehearsed: {error.message}
      </p>
    );
  }
  if (isPending) return <p className="py-4 text-ink2">Thirty years of weather go by…</p>;
  if (!report) {
    return (
      <p className="py-4 text-[14px]">
        A rehearsal needs a place with sun data, and a bank. Give the place in Brief and a battery in Store.
      </p>
    );
  }
  return (
    <>
      <Part title={`${report.years} weather years on its own sources`} note={report.sentence}>
        <div className="mb-3 grid grid-cols-2 gap-4 sm:grid-cols-4">
          <Fact value={percent(report.served_vital)} label="of vital service" />
          <Fact value={show(report.dark_hours_a_year, "h")} label="dark vital hours a year" />
          <Fact value={show(report.no_sun_h, "h")} label="vital alone, no source at all, worst month" />
          <Fact value={show(report.full_days_a_year, "d")} label="a year it gets full" />
        </div>
        <Wide label="Served share by month and tier">
          <div className="min-w-[36rem]">
            <MonthTable
              firstColumn="w-20"
              hardMonth={view.report.verdict.hard_month}
              rows={TIERS.map(([tier, name]) => [name, (report.served[tier] ?? []).map(percent)])}
            />
          </div>
        </Wide>
        <p className="mt-2 text-[12px] text-ink2">
          Hour by hour through the bank, its cold and its acceptance; no mains. The verdict above still rests
          on monthly means.
        </p>
      </Part>
      <Carry report={report} />
    </>
  );
}
