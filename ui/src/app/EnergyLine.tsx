import { Link } from "react-router";
import type { Report } from "../api/client";
import { useDesk, useFigure } from "../kit/context";
import { Figure } from "../kit/Figure";
import { useShown } from "../kit/fields";
import { MONTHS } from "../kit/MonthStrip";
import type { StepId } from "./steps";

const HEIGHT = 28;
const SHARE = 20;
/** Of the line for each of five. */

type Segment = { step: StepId; name: string; note: string; figure: string | null | undefined; fill: string };

function segmentsOf(report: Report, month: string): Segment[] {
  const line = report.energy_line;
  return [
    { step: "sun", name: "Sun", note: `on the panels, ${month}`, figure: line.sun_hours, fill: "fill-sun" },
    {
      step: "array",
      name: "Panels",
      note: "into the battery per day",
      figure: line.array_wh,
      fill: "fill-sun",
    },
    { step: "store", name: "Battery", note: "usable", figure: report.store?.usable_ah, fill: "fill-store" },
    {
      step: "bus",
      name: "Wiring",
      note: "at the lowest radio, transmitting",
      figure: report.bus.lowest_v,
      fill: "fill-store",
    },
    { step: "draw", name: "Loads", note: "used per day", figure: report.draw.daily_ah, fill: "fill-draw" },
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
      className="absolute inset-x-0 bottom-0 h-[28px] w-full"
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

/** The signature of the station in 28 px: what flows from sun to load on a day of the worst month, and where it gets thin. */
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
    <section
      aria-label={`Energy flow, ${month}`}
      title={`Energy flow on a day of ${month}, the worst month; the height of the band is Wh per day`}
      className="no-print relative grid h-[28px] max-sm:hidden shrink-0 grid-cols-5 border-b border-hair bg-sheet"
    >
      <Band flow={flow} drawn={drawn} segments={segments} />
      {segments.map((segment) => (
        <div
          key={segment.step}
          className="relative flex min-w-0 items-center gap-x-1.5 overflow-hidden border-l border-hair px-1.5 text-[12px] whitespace-nowrap sm:px-2.5"
        >
          <Link
            to={`../${segment.step}`}
            relative="path"
            title={`${segment.name} ${segment.note}`}
            className="hover:underline max-sm:sr-only"
          >
            {segment.name}
            <span className="sr-only"> {segment.note}</span>
          </Link>
          <span className="font-[640]">
            <Figure of={figure(segment.figure)} label={`${segment.name} ${segment.note}`} />
          </span>
          {report.verdict.weakest === segment.step && (
            <span
              className={`px-1 text-[11px] font-[600] max-lg:hidden ${isShort ? "bg-stop text-sheet" : "border border-hair text-ink2"}`}
            >
              weakest link
            </span>
          )}
          {segment.step === "draw" && gap?.value !== null && gap !== undefined && (
            <span className={`max-lg:hidden ${isShort ? "text-stop" : "text-ink2"}`}>
              <Figure of={gap} label={isShort ? "short per day" : "spare per day"} unit={false} unsigned />
              <span aria-hidden="true"> {isShort ? "Wh short" : "Wh spare"}</span>
              <span className="sr-only">{show(Math.abs(gap.value ?? 0), "W·h")}</span>
            </span>
          )}
        </div>
      ))}
    </section>
  );
}
