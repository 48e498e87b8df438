import type { Checked, Point, Start, View } from "./useCheck";
import { shown } from "./useCheck";

const WIDTH = 720;
const ROW = 74;
const BUS_X = 270;
const FUSE_X = 420;
const END_X = 590;

type Props = {
  start: Start;
  view: View | undefined;
  chosen: string;
  onChoose: (point: string) => void;
};

type PlaceProps = {
  x: number;
  y: number;
  point: Point | undefined;
  reading: Checked | undefined;
  number: number;
  isNext: boolean;
  isChosen: boolean;
  onChoose: (point: string) => void;
};

/** A place of the diagram: empty where nothing was read, its number where something was. */
function Place({ x, y, point, reading, number, isNext, isChosen, onChoose }: PlaceProps) {
  if (!point) return null;
  const fits = reading?.fits === "fits";
  const fill = reading ? (fits ? "fill-good" : "fill-stop") : "fill-hair";
  const told = reading ? `, ${shown(reading.value, point.unit)}, ${fits ? "fits" : "does not fit"}` : "";
  return (
    <>
      {/* biome-ignore lint/a11y/useSemanticElements: a button cannot stand in a drawing */}
      <g
        role="button"
        tabIndex={0}
        aria-label={`Measure ${point.name}${told}${isNext ? ", to be measured next" : ""}`}
        aria-pressed={isChosen}
        className="cursor-pointer outline-offset-2"
        onClick={() => onChoose(point.id)}
        onKeyDown={(event) => {
          if (event.key !== "Enter" && event.key !== " ") return;
          event.preventDefault();
          onChoose(point.id);
        }}
      >
        <circle cx={x} cy={y} r={18} fill="transparent" />
        <circle
          cx={x}
          cy={y}
          r={isNext || isChosen ? 11 : 9}
          className={`${isNext && !reading ? "fill-sheet" : fill} ${isNext || isChosen ? "stroke-act" : "stroke-none"}`}
          strokeWidth={2.5}
        />
      </g>
      {/* What the name of the place says already. */}
      <g className="pointer-events-none">
        {reading && (
          <text x={x} y={y + 4} textAnchor="middle" className="fill-sheet text-[11px] font-[640]">
            {number}
          </text>
        )}
        {reading && (
          <text
            x={x}
            y={y - 15}
            textAnchor="middle"
            className={`text-[12px] ${fits ? "fill-good" : "fill-stop font-[640]"}`}
          >
            {shown(reading.value, point.unit)}
          </text>
        )}
        {isNext && !reading && (
          <text x={x} y={y - 15} textAnchor="middle" className="fill-act text-[12px] font-[640]">
            measure here
          </text>
        )}
      </g>
    </>
  );
}

/** The station as one line, with a place wherever a meter can be put. */
export function PointsDiagram({ start, view, chosen, onChoose }: Props) {
  const points = new Map(start.points.map((point) => [point.id, point]));
  const readings = view?.readings ?? [];
  const next = view?.diagnosis.next?.point.id;
  const last = (id: string) => readings.findLastIndex((reading) => reading.point.id === id);
  const place = (id: string, x: number, y: number) => (
    <Place
      key={id}
      x={x}
      y={y}
      point={points.get(id)}
      reading={readings[last(id)]}
      number={last(id) + 1}
      isNext={next === id}
      isChosen={chosen === id}
      onChoose={onChoose}
    />
  );
  const charges = start.points.filter((point) => point.kind === "charge");
  const opens = start.points.filter((point) => point.kind === "open");
  const rows = Math.max(start.runs.length, opens.length + 2);
  const height = rows * ROW + 30;
  const y = (row: number) => 40 + row * ROW;
  const battery = y(rows - 1);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${height}`} className="w-full max-w-[760px]">
      <title>Where to measure</title>
      <line x1={BUS_X} x2={BUS_X} y1={y(0)} y2={battery} className="stroke-ink" strokeWidth={1.5} />
      {opens.map((point, row) => {
        const charge = charges.find((item) => item.of === point.of);
        return (
          <g key={point.id}>
            <line x1={60} x2={BUS_X} y1={y(row)} y2={y(row)} className="stroke-ink" strokeWidth={1.5} />
            <rect
              x={18}
              y={y(row) - 16}
              width={42}
              height={32}
              className="fill-sheet stroke-ink"
              strokeWidth={1.5}
            />
            <text x={18} y={y(row) + 34} className="fill-ink text-[12px]">
              {start.strings[row]}
            </text>
            {place(point.id, 100, y(row))}
            {charge && place(charge.id, 205, y(row))}
          </g>
        );
      })}
      {start.runs.map((run, row) => (
        <g key={run.id}>
          <line x1={BUS_X} x2={END_X} y1={y(row)} y2={y(row)} className="stroke-ink" strokeWidth={1.5} />
          {run.fuse && (
            <>
              <rect
                x={FUSE_X - 22}
                y={y(row) - 7}
                width={44}
                height={14}
                className="fill-sheet stroke-ink"
                strokeWidth={1.5}
              />
              <text x={FUSE_X} y={y(row) + 22} textAnchor="middle" className="fill-ink2 text-[11px]">
                {run.fuse}
              </text>
            </>
          )}
          <text
            x={(FUSE_X + END_X) / 2 + 10}
            y={y(row) + 22}
            textAnchor="middle"
            className="fill-ink2 text-[11px]"
          >
            {run.wire}
          </text>
          <rect
            x={END_X}
            y={y(row) - 14}
            width={34}
            height={28}
            className="fill-sheet stroke-ink"
            strokeWidth={1.5}
          />
          <text x={END_X} y={y(row) + 30} className="fill-ink text-[12px]">
            {run.end}
          </text>
          {place(`across:${run.id}`, FUSE_X, y(row))}
          {place(`amps:${run.id}`, 500, y(row))}
          {place(`volts:${run.id}`, END_X - 22, y(row))}
        </g>
      ))}
      <line x1={100} x2={BUS_X} y1={battery} y2={battery} className="stroke-ink" strokeWidth={1.5} />
      <path
        d={`M70 ${battery - 16}v32M80 ${battery - 9}v18M90 ${battery - 16}v32M100 ${battery - 9}v18`}
        className="stroke-ink"
        strokeWidth={1.5}
      />
      <text x={60} y={battery + 34} className="fill-ink text-[12px]">
        Battery
      </text>
      {place("battery", 135, battery)}
      {place("draw", 190, battery)}
      {place(`volts:${start.points.find((point) => point.short === "fuse block")?.of}`, 245, battery)}
    </svg>
  );
}
