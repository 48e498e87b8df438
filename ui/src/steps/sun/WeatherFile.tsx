import { useMutation } from "@tanstack/react-query";
import { type ChangeEvent, useId } from "react";
import { answer, asFile, client } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";
import { Wide } from "../../kit/layout";
import { MonthTable } from "../../kit/MonthTable";

type Read = components["schemas"]["ReadWeather"];
type Record = components["schemas"]["WeatherRecord"];
/** As the server: more is refused before it is sent. */
const MOST_BYTES = 3_500_000;

async function readFile(file: File): Promise<Read> {
  if (file.size > MOST_BYTES) {
    throw new Error(
      `“${file.name}” has ${(file.size / 1e6).toFixed(1)} MB; the limit is 3.5 MB. Split a long record into shorter files.`,
    );
  }
  const upload = { params: { query: { name: file.name } }, ...asFile(await file.text()) };
  return answer(client.POST("/api/weather-files/read", upload));
}

function Repairs({ record }: { record: Record }) {
  const repairs = record.repairs ?? [];
  if (repairs.length === 0) return <p className="text-ink2">No errors in the file.</p>;
  return (
    <>
      <p>Corrected while reading:</p>
      <ul className="ml-4 list-disc">
        {repairs.map((repair) => (
          <li key={repair}>{repair}</li>
        ))}
      </ul>
    </>
  );
}

function where(record: Record): string {
  const { latitude_deg, longitude_deg } = record;
  if (typeof latitude_deg !== "number" || typeof longitude_deg !== "number")
    return "no coordinates in the file";
  const side = (value: number, plus: string, minus: string) =>
    `${Math.abs(value).toFixed(2)}° ${value < 0 ? minus : plus}`;
  return `${side(latitude_deg, "north", "south")}, ${side(longitude_deg, "east", "west")}`;
}

/** What a file says, month by month, before it is taken. */
function Preview({ read, onTake, onLeave }: { read: Read; onTake: () => void; onLeave: () => void }) {
  const { record, months } = read;
  return (
    <section className="my-3 border-l-2 border-act pl-4" aria-label="File preview">
      <p className="mb-2">
        <b className="font-[640]">{record.name}</b> ·{" "}
        {record.kind === "typical" ? "a typical year" : "measured"}, {record.form.toUpperCase()} ·{" "}
        {where(record)}
      </p>
      <Wide label="Days and hours by month">
        <div className="mb-2 min-w-[34rem]">
          <MonthTable
            firstColumn="w-20"
            rows={[
              ["days with data", months.map((month) => month.days)],
              ["hours, level", months.map((month) => month.mean_kwh_m2?.toFixed(1) ?? "–")],
            ]}
          />
        </div>
      </Wide>
      <Repairs record={record} />
      <p className="mt-2 flex gap-2">
        <button type="button" className="btn btn-primary btn-sm" onClick={onTake}>
          Use this file
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onLeave}>
          Cancel
        </button>
      </p>
    </section>
  );
}

/** Brings in a weather file: it is read, looked at, and only then put into the design. */
export function WeatherFile() {
  const id = useId();
  const { view, editor } = useDesk();
  const reading = useMutation({ mutationFn: readFile });
  const held = view.document.sun.source === "record" ? view.document.sun.record : null;
  const choose = (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    // The same file may be chosen again after it was put right.
    event.target.value = "";
    if (file) reading.mutate(file);
  };
  const take = (read: Read) => {
    editor.edit(
      { kind: "set", path: ["sun", "record"], value: read.record },
      { kind: "set", path: ["sun", "source"], value: "record" },
    );
    reading.reset();
  };
  return (
    <div className="mt-4">
      {held && (
        <div className="mb-3 text-[13px]">
          <p>
            <b className="font-[640]">{held.name}</b> · {where(held)}
          </p>
          <Repairs record={held} />
        </div>
      )}
      <label htmlFor={id} className="label mb-0.5 block">
        {held ? "Another weather file" : "Weather file from a nearby station"}{" "}
        <span className="text-ink2">· EPW, TMY3, TMY2, or CSV of time and W/m²</span>
      </label>
      <input
        id={id}
        type="file"
        accept=".epw,.csv,.tm2,.tmy,.txt"
        className="max-w-full text-[13px] file:mr-3 file:rounded file:border file:border-hair file:bg-ground file:px-3 file:py-1 file:text-ink"
        aria-invalid={reading.isError ? true : undefined}
        aria-describedby={`${id}-error`}
        onChange={choose}
      />
      <p id={`${id}-error`} role="alert" className="mt-1 text-[12px] text-stop">
        {reading.error?.message}
      </p>
      {reading.isPending && (
        <p role="status" className="text-ink2">
          Reading the file…
        </p>
      )}
      {reading.data && (
        <Preview read={reading.data} onTake={() => take(reading.data)} onLeave={() => reading.reset()} />
      )}
    </div>
  );
}
