import { type KeyboardEvent, type PointerEvent, useState } from "react";
import type { components } from "../../api/schema";
import { useShown } from "../../kit/fields";
import { Wide } from "../../kit/layout";
import { hourWords } from "./happenings";

type Report = components["schemas"]["SceneReport"];
type Lane = Report["lanes"][number];
const LEFT = 150;
const SKY = 46;
const STORE = 64;
const VOLTS = 44;
const GAP = 12;
const LANE = 15;
const HOURS = 24;

/** A lane's letters: colour, and the word for the key under the chart. */
const LETTERS: Record<string, { fill: string; word: string }> = {
  o: { fill: "fill-good/60", word: "served" },
  p: { fill: "fill-good/30", word: "has power for part of the hour" },
  s: { fill: "fill-ink2/35", word: "shed" },
  w: { fill: "fill-sun/45", word: "waits for the sun" },
  l: { fill: "fill-mind/60", word: "reduced output on transmit" },
  b: { fill: "fill-fix", word: "switches off on transmit" },
  d: { fill: "fill-stop", word: "dark" },
};

/** Neighbouring hours alike become one bar. */
function runsOf(letters: string): { letter: string; from: number; length: number }[] {
  const runs: { letter: string; from: number; length: number }[] = [];
  for (const [hour, letter] of [...letters].entries()) {
    const last = runs.at(-1);
    if (last && last.letter === letter) last.length += 1;
    else runs.push({ letter, from: hour, length: 1 });
  }
  return runs;
}

function LoadLane({
  lane,
  top,
  x,
  width,
}: {
  lane: Lane;
  top: number;
  x: (hour: number) => number;
  width: number;
}) {
  return (
    <g>
      <text x={LEFT - 8} y={top + 11} textAnchor="end" className="fill-ink text-[11px]">
        {lane.name.length > 24 ? `${lane.name.slice(0, 23)}…` : lane.name}
        <title>{`${lane.name}, ${lane.tier}`}</title>
      </text>
      {runsOf(lane.hours).map(({ letter, from, length }) =>
        LETTERS[letter] ? (
          <rect
            key={from}
            x={x(from)}
            width={width * length - 0.6}
            y={top + (letter === "d" ? 0 : 3)}
            height={letter === "d" ? LANE - 2 : LANE - 6}
            className={LETTERS[letter].fill}
          >
            <title>{`${lane.name}: ${LETTERS[letter].word}, ${length} h`}</title>
          </rect>
        ) : null,
      )}
    </g>
  );
}

/** One hour read out in every lane. */
function HourRead({ report, hour }: { report: Report; hour: number }) {
  const show = useShown();
  const now = report.hours[hour];
  if (!now) return null;
  const states = report.lanes.flatMap((lane) => {
    const word = LETTERS[lane.hours[hour] ?? ""]?.word;
    return word ? [{ name: lane.name, word }] : [];
  });
  const words = [...new Set(states.map((state) => state.word))].map(
    (word) =>
      `${word}: ${states
        .filter((state) => state.word === word)
        .map((state) => state.name)
        .join(", ")}`,
  );
  return (
    <>
      <b className="font-[640]">{hourWords(hour)}</b>: {show(now.charge_share, "share")} left,{" "}
      {show(now.bus_v, "V")}, sun {show(now.sun_w_m2, "W/m²")}, {show(now.source_a, "A")} in,{" "}
      {show(now.wanted_a, "A")} needed. {words.join("; ")}
    </>
  );
}

/** Sky, store, volts and one lane a load, hour by hour; the pointer or the arrows read an hour out. */
export function Timeline({ report, name }: { report: Report; name: string }) {
  const hours = report.hours;
  const [at, setAt] = useState<number>();
  const hourPx = Math.max(2, Math.min(8, 620 / hours.length));
  const width = LEFT + hours.length * hourPx + 8;
  const x = (hour: number) => LEFT + hour * hourPx;
  const storeTop = SKY + GAP;
  const voltsTop = storeTop + STORE + GAP;
  const lanesTop = voltsTop + VOLTS + GAP;
  const height = lanesTop + report.lanes.length * LANE + 16;
  const brightest = Math.max(...hours.map((hour) => hour.sun_w_m2), 1);
  const volts = hours.map((hour) => hour.bus_v);
  const [low, high] = [Math.floor(Math.min(...volts)), Math.ceil(Math.max(...volts))];
  const level = (share: number) => storeTop + STORE * (1 - share);
  const tall = (value: number) => voltsTop + VOLTS * (1 - (value - low) / Math.max(high - low, 1));
  const line = (y: (index: number) => number) =>
    hours.map((_, index) => `${x(index + 0.5)},${y(index)}`).join(" ");
  const store = line((index) => level(hours[index]?.charge_share ?? 0));
  const label = (text: string, y: number) => (
    <text x={LEFT - 8} y={y} textAnchor="end" className="fill-ink2 text-[11px]">
      {text}
    </text>
  );
  const point = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const hour = Math.floor((((event.clientX - box.left) / box.width) * width - LEFT) / hourPx);
    setAt(hour >= 0 && hour < hours.length ? hour : undefined);
  };
  const walk = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1, PageDown: HOURS, PageUp: -HOURS }[event.key];
    if (!step) return;
    event.preventDefault();
    setAt((now) => Math.min(hours.length - 1, Math.max(0, now === undefined ? 0 : now + step)));
  };
  const letters = Object.keys(LETTERS).filter((letter) =>
    report.lanes.some((lane) => lane.hours.includes(letter)),
  );
  return (
    <>
      <Wide picture label={`Timeline, ${name}`}>
        <svg
          width={width}
          height={height}
          viewBox={`0 0 ${width} ${height}`}
          role="application"
          aria-label={`${name}. ${report.sentence} Use the arrow keys to read it hour by hour. The events are listed below.`}
          // biome-ignore lint/a11y/noNoninteractiveTabindex: the arrows walk the hours
          tabIndex={0}
          onKeyDown={walk}
          onPointerMove={point}
          onPointerLeave={() => setAt(undefined)}
        >
          {hours.map((hour, index) => (
            <rect
              key={index}
              x={x(index)}
              width={hourPx * 0.9}
              y={SKY - (SKY * hour.sun_w_m2) / brightest}
              height={(SKY * hour.sun_w_m2) / brightest}
              className="fill-sun/60"
            />
          ))}
          <polygon
            points={`${x(0.5)},${storeTop + STORE} ${store} ${x(hours.length - 0.5)},${storeTop + STORE}`}
            className="fill-store/30"
          />
          <polyline points={store} fill="none" className="stroke-store" strokeWidth="1.6" />
          <polyline
            points={line((index) => tall(volts[index] ?? low))}
            fill="none"
            className="stroke-draw"
            strokeWidth="1.2"
          />
          {label("sky", SKY - 2)}
          {label("store", storeTop + 10)}
          {label("of the usable charge", storeTop + 23)}
          {label(`${high} V`, voltsTop + 9)}
          {label(`${low} V`, voltsTop + VOLTS)}
          {report.lanes.map((lane, index) => (
            <LoadLane key={lane.id} lane={lane} top={lanesTop + index * LANE} x={x} width={hourPx} />
          ))}
          {Array.from({ length: hours.length / HOURS + 1 }, (_, day) => (
            <g key={day}>
              <path d={`M${x(day * HOURS)} 0V${height - 14}`} className="stroke-hair" strokeWidth="0.8" />
              {day * HOURS < hours.length && (
                <text
                  data-axis="days"
                  x={x(day * HOURS) + 3}
                  y={height - 3}
                  className="fill-ink2 text-[10.5px]"
                >
                  {hours.length > 14 * HOURS ? day + 1 : `day ${day + 1}`}
                </text>
              )}
            </g>
          ))}
          {at !== undefined && (
            <rect
              x={x(at)}
              width={hourPx}
              y={0}
              height={height - 14}
              className="fill-act/20"
              pointerEvents="none"
            />
          )}
        </svg>
      </Wide>
      <p aria-live="polite" className="min-h-10 text-[12px]">
        {at !== undefined && <HourRead report={report} hour={at} />}
      </p>
      <p className="flex flex-wrap gap-x-4 text-[12px] text-ink2">
        {letters.map((letter) => (
          <span key={letter} className="inline-flex items-center gap-1.5">
            <svg width="14" height="10" aria-hidden="true">
              <rect width="14" height="10" y="0" className={LETTERS[letter]?.fill} />
            </svg>
            {LETTERS[letter]?.word}
          </span>
        ))}
      </p>
      <details className="text-[12px]">
        <summary className="cursor-pointer text-act">Hours by load as a table</summary>
        <LaneTable lanes={report.lanes} />
      </details>
    </>
  );
}

function LaneTable({ lanes }: { lanes: Lane[] }) {
  const count = (lane: Lane, letter: string) => [...lane.hours].filter((item) => item === letter).length;
  return (
    <table className="w-full max-w-[36rem]">
      <thead>
        <tr className="text-ink2">
          <th scope="col" className="text-left font-normal">
            Load
          </th>
          {Object.values(LETTERS).map(({ word }) => (
            <th key={word} scope="col" className="text-right font-normal">
              {word}, h
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {lanes.map((lane) => (
          <tr key={lane.id} className="border-t border-hair2">
            <th scope="row" className="text-left font-normal">
              {lane.name}
            </th>
            {Object.keys(LETTERS).map((letter) => (
              <td key={letter} className="text-right">
                {count(lane, letter)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
