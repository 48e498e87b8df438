import type { components } from "../../api/schema";
import { Wide } from "../../kit/layout";

type Report = components["schemas"]["SceneReport"];
const LANES = [
  ["Vital", 0],
  ["Useful", 1],
  ["Comfort", 2],
] as const;
const HOUR_PX = 8;
const LEFT = 58;
const SKY = 50;
const STORE = 70;
const LANE = 14;
const HOURS = 24;

/** Sky, store and one lane a tier, hour by hour. */
export function Timeline({ report, name }: { report: Report; name: string }) {
  const hours = report.hours;
  const width = LEFT + hours.length * HOUR_PX + 8;
  const x = (hour: number) => LEFT + hour * HOUR_PX;
  const storeTop = SKY + 12;
  const lanesTop = storeTop + STORE + 14;
  const height = lanesTop + LANES.length * (LANE + 4) + 14;
  const brightest = Math.max(...hours.map((hour) => hour.sun_w_m2), 1);
  const level = (share: number) => storeTop + STORE * (1 - share);
  const first = hours[0]?.charge_share ?? 0;
  const store = [
    `${x(0)},${level(first)}`,
    ...hours.map((hour, index) => `${x(index + 1)},${level(hour.charge_share)}`),
  ].join(" ");
  return (
    <Wide label={`Timeline, ${name}`}>
      <svg
        width={width}
        height={height}
        viewBox={`0 0 ${width} ${height}`}
        role="img"
        aria-label={`${name}. ${report.sentence} ${report.events.map((event) => `Hour ${event.hour}: ${event.sentence}`).join(". ")}`}
      >
        {hours.map((hour, index) => (
          <rect
            key={index}
            x={x(index)}
            width={HOUR_PX - 1}
            y={SKY - (SKY * hour.sun_w_m2) / brightest}
            height={(SKY * hour.sun_w_m2) / brightest}
            className="fill-sun/60"
          />
        ))}
        <polygon
          points={`${x(0)},${storeTop + STORE} ${store} ${x(hours.length)},${storeTop + STORE}`}
          className="fill-store/30"
        />
        <polyline points={store} fill="none" className="stroke-store" strokeWidth="1.6" />
        {LANES.map(([lane, tier]) => (
          <g key={lane}>
            <text
              x={LEFT - 6}
              y={lanesTop + tier * (LANE + 4) + 11}
              textAnchor="end"
              className="fill-ink text-[11px]"
            >
              {lane}
            </text>
            {hours.map((hour, index) => {
              const share = hour.served[tier] ?? 1;
              return (
                <rect
                  key={index}
                  x={x(index)}
                  width={HOUR_PX - 1}
                  y={lanesTop + tier * (LANE + 4)}
                  height={LANE}
                  className={share >= 0.999 ? "fill-good/60" : tier === 0 ? "fill-stop" : "fill-ink2/40"}
                />
              );
            })}
          </g>
        ))}
        {Array.from({ length: hours.length / HOURS + 1 }, (_, day) => (
          <g key={day}>
            <path d={`M${x(day * HOURS)} 0V${height - 14}`} className="stroke-hair" strokeWidth="0.8" />
            {day * HOURS < hours.length && (
              <text x={x(day * HOURS) + 3} y={height - 3} className="fill-ink2 text-[10.5px]">
                day {day + 1}
              </text>
            )}
          </g>
        ))}
        <text x={LEFT - 6} y={SKY - 4} textAnchor="end" className="fill-ink2 text-[11px]">
          sky
        </text>
        <text x={LEFT - 6} y={storeTop + STORE - 4} textAnchor="end" className="fill-ink2 text-[11px]">
          store
        </text>
      </svg>
    </Wide>
  );
}
