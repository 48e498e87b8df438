import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk, useField } from "../../kit/context";
import { HorizonField } from "./HorizonField";
import {
  added,
  moved,
  outline,
  type Point,
  placed,
  pointAt,
  TOP_DEG,
  trackPath,
  turnFor,
  WIDTH_DEG,
} from "./skyline";

type Track = components["schemas"]["SunTrack"];

function useTracks(): Track[] {
  const { view } = useDesk();
  const place = view.document.place;
  const { data } = useQuery({
    queryKey: ["sun-path", view.id, place?.latitude_deg, view.report.verdict.hard_month],
    placeholderData: (before) => before,
    queryFn: () =>
      answer(client.GET("/api/designs/{design_id}/sun-path", { params: { path: { design_id: view.id } } })),
  });
  return data?.tracks ?? [];
}

const COMPASS: [number, string][] = [
  [0, "N"],
  [45, "NE"],
  [90, "E"],
  [135, "SE"],
  [180, "S"],
  [225, "SW"],
  [270, "W"],
  [315, "NW"],
];

const STEPS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

type HandleProps = {
  point: Point;
  turn: number;
  onStep: (azimuth_deg: number, elevation_deg: number) => void;
  onRemove: () => void;
};

/** A corner of the skyline: dragged, or moved with the arrows, five degrees at once with Shift. */
function Handle({ point, turn, onStep, onRemove }: HandleProps) {
  const onKeyDown = (event: KeyboardEvent) => {
    const step = STEPS[event.key];
    if (step) {
      event.preventDefault();
      const size = event.shiftKey ? 5 : 1;
      onStep(step[0] * size, step[1] * size);
    } else if (event.key === "Delete" || event.key === "Backspace") onRemove();
  };
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={`Skyline at ${point.azimuth_deg}°`}
      aria-valuemin={0}
      aria-valuemax={85}
      aria-valuenow={point.elevation_deg}
      aria-valuetext={`${point.elevation_deg}° high`}
      onKeyDown={onKeyDown}
      className="cursor-move"
    >
      <circle
        cx={placed(point.azimuth_deg, turn)}
        cy={TOP_DEG - point.elevation_deg}
        r="3"
        className="fill-sheet stroke-ink"
        strokeWidth="1.2"
      />
    </g>
  );
}

/** The sun's way through the sky, with the skyline drawn into it by pointer, arrows or as figures. */
export function HorizonEditor() {
  const { view } = useDesk();
  const field = useField<Point[]>(["sun", "horizon"]);
  const tracks = useTracks();
  const [draft, setDraft] = useState<Point[]>();
  const dragged = useRef<number>(undefined);
  const points = draft ?? field.value;
  const turn = turnFor(view.document.place?.latitude_deg ?? 0);
  const hard = view.report.verdict.hard_month;

  const grab = (event: PointerEvent<SVGSVGElement>) => {
    const at = pointAt(event, turn);
    const near = points.findIndex(
      (point) =>
        Math.hypot(
          placed(point.azimuth_deg, turn) - placed(at.azimuth_deg, turn),
          point.elevation_deg - at.elevation_deg,
        ) < 5,
    );
    const next = near >= 0 ? points : added(points, at);
    dragged.current = near >= 0 ? near : next.findIndex((point) => point.azimuth_deg === at.azimuth_deg);
    event.currentTarget.setPointerCapture(event.pointerId);
    setDraft(next);
  };
  const drag = (event: PointerEvent<SVGSVGElement>) => {
    if (dragged.current === undefined || !draft) return;
    setDraft(moved(draft, dragged.current, pointAt(event, turn)));
  };
  const drop = () => {
    if (dragged.current === undefined || !draft) return;
    dragged.current = undefined;
    if (JSON.stringify(draft) !== JSON.stringify(field.value)) field.set(draft);
    setDraft(undefined);
  };
  // Keys come faster than the page is drawn again: each steps from where the last one left the corner.
  const live = useRef(points);
  live.current = points;
  const step = (index: number, azimuth: number, elevation: number) => {
    const from = live.current[index];
    if (!from) return;
    const to = {
      azimuth_deg: from.azimuth_deg + azimuth,
      elevation_deg: from.elevation_deg + elevation,
    };
    live.current = moved(live.current, index, to);
    field.set(live.current);
  };
  const remove = (index: number) => field.set(points.filter((_, other) => other !== index));

  return (
    <div>
      <svg
        viewBox={`0 0 ${WIDTH_DEG} ${TOP_DEG + 1}`}
        className="w-full touch-none rounded border border-hair bg-ground select-none"
        onPointerDown={grab}
        onPointerMove={drag}
        onPointerUp={drop}
        onPointerCancel={drop}
      >
        <title>The sun's path by month, and your skyline</title>
        {tracks.map((track) => (
          <path
            key={track.month}
            d={trackPath(track.azimuth_deg, track.elevation_deg, turn)}
            fill="none"
            className={track.month === hard ? "stroke-sun" : "stroke-sun/45"}
            strokeWidth={track.month === hard ? 1.6 : 0.9}
          />
        ))}
        {tracks.map((track) => {
          const middle = Math.floor(track.azimuth_deg.length / 2);
          const height = track.elevation_deg[middle];
          if (height === undefined) return null;
          return (
            <text
              key={track.month}
              x={placed(track.azimuth_deg[middle] ?? 0, turn)}
              y={TOP_DEG - height - 1.5}
              textAnchor="middle"
              className="fill-ink text-[4.5px]"
            >
              {track.name}
            </text>
          );
        })}
        {COMPASS.map(([azimuth, name]) => (
          <text
            key={name}
            x={placed(azimuth, turn)}
            y={TOP_DEG - 1.5}
            textAnchor="middle"
            className="fill-ink2 text-[4.5px]"
          >
            {placed(azimuth, turn) === 0 ? "" : name}
          </text>
        ))}
        <path d={outline(points, turn)} className="fill-ink2/35 stroke-ink2" strokeWidth="0.7" />
        {points.map((point, index) => (
          <Handle
            key={index}
            point={point}
            turn={turn}
            onStep={(azimuth, elevation) => step(index, azimuth, elevation)}
            onRemove={() => remove(index)}
          />
        ))}
      </svg>
      <p className="mb-2 text-[12px] text-ink2">
        Click in the sky to add a point. Drag it, or move it with the arrow keys (with Shift, 5 degrees at a
        time). Delete removes it.
      </p>
      <HorizonField />
    </div>
  );
}
