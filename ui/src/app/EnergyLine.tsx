import { Link } from "react-router";
import type { Report } from "../api/client";
import { useDesk, useFigure } from "../kit/context";
import { Figure } from "../kit/Figure";
import { useShown } from "../kit/fields";
import { MONTHS } from "../kit/MonthStrip";
import type { StepId } from "./steps";

const HEIGHT = 26;
const SHARE = 20;
/** Of the line for each of five. */

type Segment = { step: StepId; name: string; note: string; figure: string | null | undefined; fill: string };

function segmentsOf(report: Report, month: string): Segment[] {
  const line = report.energy_line;
  return [
    { step: "sun", name: "Sun", note: `on the panels, ${month}`, figure: line.sun_hours, fill: "fill-sun" },
    { step: "array", name: "Array", note: "into the bank a day", figure: line.array_wh, fill: "fill-sun" },
    { step: "store", name: "Store", note: "usable", figure: report.store?.usable_ah, fill: "fill-store" },
    {
      step: "bus",
      name: "Bus",
      note: "at the lowest set, keyed",
      figure: report.bus.lowest_v,
      fill: "fill-store",
    },
    { step: "draw", name: "Draw", note: "a day", figure: report.draw.daily_ah, fill: "fill-draw" },
  ];
}

/** The band: its thickness is W·h a day; it narrows where energy is lost and is dashed where some is missing. */
function Band({ flow, drawn, segments }: { flow: number[]; drawn: number; segments: Segment[] }) {
  const most = Math.max(drawn, ...flow, 1);
  const thick = (wh: number) => (HEIGHT * wh) / most;
  const shape = (index: number) => {
    const from = thick(flow[index - 1] ?? flow[index] ?? 0);
    const to = thick(flow[index] ?? 0);
    const x = index * SHARE;
    return `M${x} ${HEIGHT - from} C${x + 6} ${HEIGHT - from} ${x + 4} ${HEIGHT - to} ${x + 10} ${HEIGHT - to} L${x + SHARE} ${HEIGHT - to} V${HEIGHT} H${x} Z`;
  };
  const served = Math.min(flow[4] ?? 0, drawn);
  return (
    <svg
      viewBox={`0 0 100 ${HEIGHT}`}
      preserveAspectRatio="none"
      className="absolute inset-x-0 bottom-0 h-[26px] w-full"
      aria-hidden="true"
    >
      {segments.map((segment, index) => (
        <path key={segment.step} d={shape(index)} className={`${segment.fill} opacity-35`} />
      ))}
      {drawn > served && (
        <rect
          x={4 * SHARE + 0.3}
          y={HEIGHT - thick(drawn) + 0.5}
          width={SHARE - 0.6}
          height={Math.max(0, thick(drawn) - thick(served) - 1)}
          className="fill-none stroke-stop"
          strokeDasharray="3 2"
          vectorEffect="non-scaling-stroke"
        />
      )}
    </svg>
  );
}

export function EnergyLine() {
  const { view } = useDesk();
  const figure = useFigure();
  const show = useShown();
  const { report } = view;
  const line = report.energy_line;
  const month = MONTHS[line.month - 1] ?? "";
  const segments = segmentsOf(report, month);
  const number = (key: string | null) => figure(key)?.value ?? 0;
  const drawn = number(line.draw_wh);
  const stored = number(line.store_wh);
  const flow = [number(line.sun_wh), number(line.array_wh), stored, stored, Math.min(stored, drawn)];
  const gap = figure(line.gap_wh);
  const isShort = (gap?.value ?? 0) > 0;
  return (
    <section aria-label={`Energy line, ${month}`} className="no-print flex border-b border-hair bg-sheet">
      <p className="w-[176px] shrink-0 px-4 py-2.5 text-[12px] text-ink2 max-md:hidden">
        Energy line
        <br />
        {month}, the hard month
        <br />
        band: Wh a day
      </p>
      <div className="relative grid min-h-[84px] min-w-0 flex-1 grid-cols-5">
        <Band flow={flow} drawn={drawn} segments={segments} />
        {segments.map((segment) => (
          <div
            key={segment.step}
            className="relative min-w-0 border-l border-hair px-2 pt-1.5 pb-7 sm:px-2.5"
          >
            <Link
              to={`../${segment.step}`}
              relative="path"
              className="block truncate text-[12px] hover:underline"
            >
              {segment.name} <span className="text-ink2 max-sm:hidden">{segment.note}</span>
            </Link>
            <div className="text-[15px] font-[640] sm:text-[19px]">
              <Figure of={figure(segment.figure)} />
            </div>
            {report.verdict.weakest === segment.step && (
              <span
                className={`absolute top-7 right-1 px-1.5 text-[11px] font-[600] max-lg:static max-lg:inline-block ${isShort ? "bg-stop text-sheet" : "border border-hair text-ink2"}`}
              >
                weakest link
              </span>
            )}
            {segment.step === "draw" && gap?.value !== null && gap !== undefined && (
              <span
                className={`absolute top-7 right-1.5 text-[12px] max-lg:static max-lg:block ${(gap.value ?? 0) > 0 ? "text-stop" : "text-ink2"}`}
              >
                <Figure
                  of={gap}
                  label={(gap.value ?? 0) > 0 ? "missing a day" : "spare a day"}
                  unit={false}
                  unsigned
                />
                <span aria-hidden="true"> {(gap.value ?? 0) > 0 ? `Wh short` : `Wh spare`}</span>
                <span className="sr-only">{show(Math.abs(gap.value ?? 0), "W·h")}</span>
              </span>
            )}
          </div>
        ))}
      </div>
    </section>
  );
}
