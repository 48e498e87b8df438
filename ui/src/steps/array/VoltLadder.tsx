import type { components } from "../../api/schema";
import { roundTicks } from "../../charts/ticks";
import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { Part, Wide } from "../../kit/layout";

type Check = components["schemas"]["StringCheck"];
type Rung = components["schemas"]["Rung"];
const SIDES = ["panel", "controller", "bank", "radio"] as const;
const HEIGHT = 300;
const COLUMN = 158;
const LEFT = 34;
const FILLS: Record<string, string> = {
  panel: "fill-sun/40",
  controller: "fill-act/25",
  bank: "fill-store/40",
  radio: "fill-draw/35",
};
const TICKS = 6;

/** Places for the words beside the marks, pushed apart so that none covers another. */
function spread(wanted: number[], gap: number): number[] {
  const order = wanted.map((_, index) => index).sort((a, b) => (wanted[a] ?? 0) - (wanted[b] ?? 0));
  const placed = [...wanted];
  order.forEach((index, rank) => {
    const before = order[rank - 1];
    if (before !== undefined) placed[index] = Math.max(placed[index] ?? 0, (placed[before] ?? 0) + gap);
  });
  return placed;
}

function Column({ rungs, left, y }: { rungs: Rung[]; left: number; y: (volts: number) => number }) {
  const words = spread(
    rungs.map((rung) => y((rung.low_v + rung.high_v) / 2)),
    12,
  );
  return (
    <>
      {rungs.map((rung, index) => {
        const band = rung.high_v > rung.low_v;
        const text = band
          ? `${rung.label} ${rung.low_v.toFixed(1)}–${rung.high_v.toFixed(1)}`
          : `${rung.label} ${rung.low_v.toFixed(1)}`;
        return (
          <g key={rung.label}>
            {band ? (
              <rect
                x={left}
                width="26"
                y={y(rung.high_v)}
                height={Math.max(1.5, y(rung.low_v) - y(rung.high_v))}
                className={FILLS[rung.side]}
              />
            ) : (
              <path
                d={`M${left} ${y(rung.low_v)}h26`}
                className={rung.trouble ? "stroke-stop" : "stroke-ink"}
                strokeWidth="2"
              />
            )}
            <path
              d={`M${left + 27} ${y((rung.low_v + rung.high_v) / 2)}L${left + 32} ${words[index]}`}
              className="stroke-hair"
              strokeWidth="0.7"
            />
            <text
              x={left + 34}
              y={(words[index] ?? 0) + 3}
              className={`text-[9.5px] ${rung.trouble ? "fill-stop font-[640]" : "fill-ink"}`}
            >
              {rung.trouble ? `■ ${text}` : text}
            </text>
          </g>
        );
      })}
    </>
  );
}

function Ladder({ check }: { check: Check }) {
  const figure = useFigure();
  const most = Math.max(...check.rungs.filter((rung) => rung.high_v < 200).map((rung) => rung.high_v)) * 1.04;
  const least = Math.min(...check.rungs.map((rung) => rung.low_v)) * 0.92;
  const y = (volts: number) => HEIGHT - ((Math.min(volts, most) - least) / (most - least)) * HEIGHT;
  return (
    <figure className="mb-4">
      <figcaption className="mb-2">
        <b className="font-[640]">{check.name}.</b> {check.takeaway}
      </figcaption>
      <Wide picture label={`Voltages of ${check.name}`}>
        <svg
          viewBox={`0 -14 ${LEFT + SIDES.length * COLUMN + 10} ${HEIGHT + 22}`}
          className="w-full min-w-[36rem]"
          role="img"
          aria-label={`${check.name}, voltages from panel to radio. ${check.rungs
            .map(
              (rung) =>
                `${rung.side} ${rung.label} ${rung.low_v.toFixed(1)} to ${rung.high_v.toFixed(1)} volts`,
            )
            .join("; ")}`}
        >
          {roundTicks(least, most, TICKS).map((volts) => (
            <g key={volts}>
              <path
                d={`M${LEFT} ${y(volts)}H${LEFT + SIDES.length * COLUMN}`}
                className="stroke-hair2"
                strokeWidth="0.7"
              />
              <text
                data-axis="volts"
                x={LEFT - 5}
                y={y(volts) + 3}
                textAnchor="end"
                className="fill-ink2 text-[9.5px]"
              >
                {volts} V
              </text>
            </g>
          ))}
          {SIDES.map((side, index) => (
            <g key={side}>
              <text x={LEFT + 4 + index * COLUMN} y={-4} className="fill-ink2 text-[10px]">
                {side}
              </text>
              <Column
                rungs={check.rungs.filter((rung) => rung.side === side)}
                left={LEFT + 4 + index * COLUMN}
                y={y}
              />
            </g>
          ))}
        </svg>
      </Wide>
      <p className="text-[12px]">
        Coldest morning: <Figure of={figure(check.cold_v)} /> ({check.cold_rule}), limit{" "}
        <Figure of={figure(check.limit_v)} />. Hottest afternoon: <Figure of={figure(check.hot_v)} />, with{" "}
        <Figure of={figure(check.hot_share)} /> of its current left at <Figure of={figure(check.need_v)} />.
        Most it puts into the battery: <Figure of={figure(check.best_a)} />. Size wire and fuses for{" "}
        <Figure of={figure(check.conductor_a)} /> and the controller for{" "}
        <Figure of={figure(check.proposed_a)} />.
      </p>
    </figure>
  );
}

/** One scale of volts from the panel on a cold morning to the radio at the end of the bank. */
export function VoltLadder() {
  const { view } = useDesk();
  const checks = view.report.charging.strings;
  if (checks.length === 0) return null;
  return (
    <Part
      title="Voltages from panel to radio"
      note="from the panel on the coldest morning to the radio on a low battery"
    >
      {checks.map((check) => (
        <Ladder key={check.id} check={check} />
      ))}
    </Part>
  );
}
