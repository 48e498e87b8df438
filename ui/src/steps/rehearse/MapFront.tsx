import { roundTicks } from "../../charts/ticks";
import type { SizingMap } from "./useSizingMap";

const WIDTH = 432;
const HEIGHT = 130;
const LEFT = 64;
const BOTTOM = 34;

/** What service costs at least: a step line from the cheapest size to the best. */
export function MapFront({ map }: { map: SizingMap }) {
  const [first, last] = [map.front[0], map.front.at(-1)];
  if (!first || !last || map.front.length < 2) return null;
  const dearest = Math.max(last.cost, map.here.cost);
  const x = (cost: number) => LEFT + (WIDTH * cost) / dearest;
  const y = (share: number) => HEIGHT * (1 - share) + 6;
  const steps = map.front.map(({ cost, share }, index) =>
    index === 0 ? `M${x(cost)} ${y(share)}` : `H${x(cost)}V${y(share)}`,
  );
  const unit = map.priced ? map.currency || "money" : "times the cost of what you have";
  const money = (cost: number) => (map.priced ? cost.toFixed(0) : cost.toFixed(1));
  return (
    <figure className="mt-3">
      <svg
        viewBox={`0 0 ${LEFT + WIDTH + 12} ${HEIGHT + BOTTOM + 6}`}
        className="w-full max-w-[36rem]"
        role="img"
        aria-label={`What ${map.share_of} costs at least, from ${money(first.cost)} for ${(first.share * 100).toFixed(0)} % to ${money(last.cost)} for ${(last.share * 100).toFixed(1)} %, in ${unit}`}
      >
        {[0, 0.25, 0.5, 0.75, 1].map((share) => (
          <g key={share}>
            <path d={`M${LEFT} ${y(share)}H${LEFT + WIDTH}`} className="stroke-hair" />
            <text
              data-axis="share"
              x={LEFT - 6}
              y={y(share) + 4}
              textAnchor="end"
              className="fill-ink2 text-[11px]"
            >
              {share * 100}
              {share === 1 ? " %" : ""}
            </text>
          </g>
        ))}
        {roundTicks(0, dearest, 6).map((cost) => (
          <text
            key={cost}
            data-axis="cost"
            x={x(cost)}
            y={HEIGHT + 20}
            textAnchor="middle"
            className="fill-ink2 text-[11px]"
          >
            {cost}
          </text>
        ))}
        <text x={LEFT + WIDTH} y={HEIGHT + 34} textAnchor="end" className="fill-ink2 text-[11px]">
          {unit}
        </text>
        <path d={`M${LEFT} ${y(map.target)}H${LEFT + WIDTH}`} className="stroke-good" strokeDasharray="4 3" />
        <path d={steps.join("")} className="stroke-store" strokeWidth="2" fill="none" />
        <circle
          cx={x(map.here.cost)}
          cy={y(map.here.share)}
          r="4.5"
          className="fill-sheet stroke-ink"
          strokeWidth="1.6"
        />
      </svg>
      <figcaption className="text-[12px] text-ink2">
        Lowest cost for each share of {map.share_of}. The ring is what you have; the dashed line is{" "}
        {map.target * 100} %.
      </figcaption>
    </figure>
  );
}
