import { useQuery } from "@tanstack/react-query";
import { answer, client, type Quantity } from "../../api/client";
import type { components } from "../../api/schema";
import { useAside, useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { BigFigure, Part, Wide } from "../../kit/layout";
import { MonthTable } from "../../kit/MonthTable";
import { YearBand } from "./YearBand";

type Report = components["schemas"]["YearsReport"];
type Look = (key: string | null | undefined) => Quantity | undefined;
const ROWS = [
  ["vital", "Vital"],
  ["useful", "Useful"],
  ["comfort", "Nice to have"],
  ["deferred", "Can wait for sun"],
] as const;

function useYears() {
  const { view } = useDesk();
  return useQuery({
    queryKey: ["years", view.id, view.revision],
    placeholderData: (before) => before,
    queryFn: () =>
      answer(client.GET("/api/designs/{design_id}/years", { params: { path: { design_id: view.id } } })),
  });
}

function Chance({ of }: { of: Quantity | undefined }) {
  return (
    <span className="relative block h-6 leading-6">
      <span
        className="absolute inset-px bg-good"
        style={{ opacity: 0.45 * (of?.value ?? 0) }}
        aria-hidden="true"
      />
      <span className="relative">
        <Figure of={of} unit={false} />
      </span>
    </span>
  );
}

/** The chance of getting through, by start month and days, full at the start, everything on. */
function Carry({ report, figure }: { report: Report; figure: Look }) {
  return (
    <Part
      title="Chance of lasting"
      note={`how often vital loads keep power through an outage: battery full at the start, everything on, ${report.years} weather years`}
    >
      <Wide label="Chance of lasting, by start month and days">
        <div className="min-w-[34rem]">
          <MonthTable
            firstColumn="w-16"
            rows={report.lengths_d.map((days, row) => [
              days === 1 ? "1 day" : `${days} days`,
              report.carry.map((month, index) => <Chance key={index} of={figure(month[row])} />),
            ])}
          />
        </div>
      </Wide>
      <p className="mt-1 text-[12px] text-ink2">
        Percent of tries that get through; we start one at every midnight of every year.
      </p>
    </Part>
  );
}

/** The year's figures: the share with its band, dark hours, how long full and empty take. */
function Facts({ report, figure }: { report: Report; figure: Look }) {
  return (
    <div className="mb-3 grid grid-cols-2 gap-4 sm:grid-cols-4">
      <div className="min-w-0">
        <Figure of={figure(report.share)} size="big" label="Vital service" />
        <p className="text-[12px] text-ink2">
          of the time vital loads have power; <Figure of={figure(report.low)} /> to{" "}
          <Figure of={figure(report.high)} />, depending on how right our sun and power-use guesses are
        </p>
      </div>
      <BigFigure of={figure(report.dark_h)} label="hours a year without power, vital loads" />
      <BigFigure of={figure(report.no_source_h)} label="on a full battery without sun, worst month" />
      <BigFigure of={figure(report.recharge_h)} label="to recharge from empty with loads on, worst month" />
      <BigFigure of={figure(report.years_without_dark)} label="of years with no power loss" />
      <BigFigure of={figure(report.trips)} label="low-voltage cut-offs a year" />
      <BigFigure of={figure(report.full_days)} label="a year the battery gets full" />
      <BigFigure of={figure(report.lost_ah)} label="a year of charge not used (battery full)" />
      {report.backed_h && (
        <BigFigure of={figure(report.backed_h)} label="a year on mains or generator backup" />
      )}
    </div>
  );
}

/** What the simulation serves by month and tier, the rule of thumb beneath. */
function ByMonth({ report, figure }: { report: Report; figure: Look }) {
  const { view } = useDesk();
  const reported = useFigure();
  const { verdict } = view.report;
  const rows = ROWS.filter(([tier]) => report.served[tier]?.some(Boolean));
  return (
    <>
      <Wide label="Share with power, by month and priority">
        <div className="min-w-[38rem]">
          <MonthTable
            firstColumn="w-24"
            hardMonth={verdict.hard_month}
            rows={[
              ...rows.map(([tier, name]): [string, React.ReactNode[]] => [
                name,
                (report.served[tier] ?? []).map((key, index) => (
                  <Figure key={index} of={figure(key)} unit={false} />
                )),
              ]),
              [
                "Rule of thumb",
                verdict.months.map((cell) => (
                  <Figure key={cell.month} of={reported(cell.mean)} unit={false} />
                )),
              ],
            ]}
          />
        </div>
      </Wide>
      <p className="mt-1 text-[12px] text-ink2">
        Percent of the time with power. The rule of thumb uses each month’s average sun and ignores runs of
        bad weather. The verdict comes from the simulation.
      </p>
    </>
  );
}

/** All weather years: what is served, how long it is dark. */
export function Years() {
  const { data, error, isPending } = useYears();
  const report = data?.report ?? undefined;
  const figure = useAside(report?.working, "thirty.");
  if (error) {
    return (
      <p role="alert" className="py-4 text-stop">
        The weather years could not be simulated: {error.message}
      </p>
    );
  }
  if (isPending) return <p className="py-4 text-ink2">Simulating thirty years of weather…</p>;
  if (!report) {
    return (
      <p className="py-4 text-[14px]">
        To simulate the years we need a location with sun data and a battery. Enter the location in Brief and
        the battery in Battery.
      </p>
    );
  }
  return (
    <>
      <Part title={`${report.years} weather years`} note={report.sentence}>
        {report.surer && <p className="mb-2 text-[12px] text-ink2">{report.surer}</p>}
        <Facts report={report} figure={figure} />
        <ByMonth report={report} figure={figure} />
      </Part>
      <YearBand report={report} />
      <Carry report={report} figure={figure} />
    </>
  );
}
