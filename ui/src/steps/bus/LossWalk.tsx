import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { Part, Wide } from "../../kit/layout";
import type { LoadAtBus } from "./run";

const WIDTH = 460;
const ROW = 50;
const LEFT = 8;
const CASES = [
  { at: 0, name: "Receiving, battery full", rest: 0, colour: "fill-store stroke-store" },
  { at: 1, name: "Transmitting, battery full", rest: 0, colour: "fill-draw stroke-draw" },
  { at: 2, name: "Receiving, lowest charge allowed", rest: 2, colour: "fill-store stroke-store" },
  { at: 3, name: "Transmitting, lowest charge allowed", rest: 2, colour: "fill-draw stroke-draw" },
] as const;

/** Volts as a way down: from the rested bank, step by step, to what is left at the set. */
function Stairs({ load, low }: { load: LoadAtBus; low: number }) {
  const figure = useFigure();
  const ends = [load.receive_v[0], load.keyed_v[0], load.receive_v[2], load.keyed_v[2]];
  const lostAt = (at: number) => load.walk.map((hop) => figure(hop.lost_v[at])?.value ?? 0);
  const restOf = (at: number) =>
    (figure(ends[at])?.value ?? 0) + lostAt(at).reduce((sum, volts) => sum + volts, 0);
  const top = Math.max(...CASES.map(({ at }) => restOf(at)));
  const bottom = Math.min(low, ...CASES.map(({ at }) => figure(ends[at])?.value ?? low)) - 0.15;
  const x = (volts: number) => LEFT + ((top - volts) / (top - bottom || 1)) * (WIDTH - LEFT - 70);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${CASES.length * ROW + 8}`} className="w-full" aria-hidden="true">
      <rect
        x={x(low)}
        y="0"
        width={Math.max(0, WIDTH - x(low))}
        height={CASES.length * ROW + 8}
        className="fill-stop/10"
      />
      <path d={`M${x(low)} 0V${CASES.length * ROW + 8}`} className="stroke-stop" strokeDasharray="3 3" />
      {CASES.map(({ at, name, colour }, row) => {
        let volts = restOf(at);
        const y = row * ROW + 20;
        const steps = lostAt(at).map((lost, index) => {
          const from = x(volts);
          volts -= lost;
          return { from, to: x(volts), key: load.walk[index]?.run ?? "", index };
        });
        const last = steps.at(-1)?.to ?? 0;
        return (
          <g key={name}>
            <text x={LEFT} y={y - 6} className="fill-ink text-[11px]">
              {name}
            </text>
            {steps.map((step) => (
              <rect
                key={step.key}
                x={step.from}
                y={y}
                width={Math.max(step.to - step.from - 0.7, 0.5)}
                height="20"
                className={colour}
                strokeWidth="0.5"
                fillOpacity={step.index === 0 ? 0.85 : 0.62 - 0.14 * step.index}
              />
            ))}
            <path d={`M${last} ${y - 3}V${y + 24}`} className="stroke-ink" strokeWidth="1.5" />
            <text x={last + 5} y={y + 14} className="fill-ink text-[12px] font-semibold">
              {volts.toFixed(2)} V
            </text>
          </g>
        );
      })}
    </svg>
  );
}

/** The loss walk: what is lost at every hop from the post to a set. */
export function LossWalk({ load }: { load: LoadAtBus }) {
  const { view } = useDesk();
  const figure = useFigure();
  const low = load.low_v ?? 0;
  return (
    <Part title={`Voltage drop, step by step: battery to ${load.name}`}>
      <div className="grid gap-x-8 gap-y-3 lg:grid-cols-[3fr_2fr]">
        <div>
          <Stairs load={load} low={low} />
          <p className="text-[12px] text-ink2">
            Each bar starts at the volts of the resting battery. Each piece is one step of the wiring, in the
            order of the table. The radio needs {low.toFixed(1)} V: a bar that passes the dashed line leaves
            it too little.
          </p>
        </div>
        <Wide label="Voltage drop in figures">
          <table className="w-full self-start">
            <thead>
              <tr className="text-[12px] text-ink2">
                <th scope="col" className="text-left font-normal">
                  Volts lost
                </th>
                {["RX, full", "TX, full", "RX, lowest", "TX, lowest"].map((name) => (
                  <th key={name} scope="col" className="px-1.5 text-right font-normal">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {load.walk.map((hop) => (
                <tr key={hop.run} className="border-t border-hair2">
                  <th scope="row" className="py-1 pr-2 text-left font-normal">
                    {hop.name}
                  </th>
                  {hop.lost_v.map((key) => (
                    <td key={key} className="px-1.5 text-right">
                      <Figure of={figure(key)} unit={false} digits={2} />
                    </td>
                  ))}
                </tr>
              ))}
              <tr className="border-t border-hair font-[640]">
                <th scope="row" className="py-1 text-left">
                  Left at {load.name}
                </th>
                {[load.receive_v[0], load.keyed_v[0], load.receive_v[2], load.keyed_v[2]].map((key) => (
                  <td key={key} className="px-1.5 text-right">
                    <Figure of={figure(key)} unit={false} digits={2} />
                  </td>
                ))}
              </tr>
            </tbody>
          </table>
          <p className="mt-2 text-[12px] text-ink2">
            {view.report.bus.tradition_label} wire sizes; copper at 50 °C under load.
          </p>
        </Wide>
      </div>
    </Part>
  );
}
