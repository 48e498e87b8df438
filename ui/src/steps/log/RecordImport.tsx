import { type ChangeEvent, useRef, useState } from "react";
import { answer, asFile, client, reasonOf } from "../../api/client";
import { useDesk } from "../../kit/context";
import { dayInWords } from "../../kit/dates";
import { DateOrder, type Preview, RecordColumns } from "./RecordColumns";
import { type ImportRun, type Picked, useRecordImport } from "./useRecordImport";

const LOOK_BYTES = 200_000;

/** What the whole file comes to, before any of it is kept or after. */
function Outcome({ run, zone }: { run: ImportRun; zone: string | null | undefined }) {
  if (run.refused) {
    return (
      <p role="alert" className="text-stop">
        Nothing was kept: {run.refused}.
      </p>
    );
  }
  const said = run.stored
    ? `${run.new?.toLocaleString()} of ${run.rows?.toLocaleString()} rows are new, and were kept.`
    : `${run.rows?.toLocaleString()} rows, ${dayInWords(run.first, zone)} to ${dayInWords(run.last, zone)}. Nothing is kept yet.`;
  return (
    <div role="status">
      <p>{said}</p>
      <ul className="list-disc pl-5 text-ink2">
        {run.notes.map((note) => (
          <li key={note}>{note}.</li>
        ))}
      </ul>
    </div>
  );
}

/** Import a meter’s record: pick, look at its columns, have it looked through to its end, keep it. */
export function RecordImport() {
  const { view } = useDesk();
  const input = useRef<HTMLInputElement>(null);
  const [picked, setPicked] = useState<Picked & { look: Preview }>();
  const [trouble, setTrouble] = useState<string>();
  const { run, isWorking, send, act, forget } = useRecordImport();
  const zone = view.document.place?.time_zone;
  const pick = async (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    event.target.value = "";
    if (!file) return;
    forget();
    setTrouble(undefined);
    try {
      // A table of text can be looked at from its beginning; a packed one only as a whole.
      const part = /\.(ods|xlsx)$/i.test(file.name) ? file : file.slice(0, LOOK_BYTES);
      const params = { query: { name: file.name } };
      const look = await answer(client.POST("/api/records/look", { params, ...asFile(part) }));
      setPicked({ file, look, columns: look.columns.map((column) => column.taken_for ?? ""), dates: "" });
    } catch (error) {
      setTrouble(reasonOf(error));
    }
  };
  const stop = () => {
    if (run && !run.stored) act.mutate("cancel");
    forget();
    setPicked(undefined);
  };
  const failed = send.error ?? act.error;
  const isLookedThrough = run?.state === "done" && !run.stored && !run.refused;
  return (
    <>
      <button type="button" className="btn btn-sm btn-ghost text-act" onClick={() => input.current?.click()}>
        Import a meter’s record
      </button>
      <input
        ref={input}
        type="file"
        accept=".csv,.tsv,.txt,.ods,.xlsx"
        aria-label="A meter’s record"
        className="sr-only"
        tabIndex={-1}
        onChange={pick}
      />
      {picked && (
        <div className="my-2">
          <p>
            {picked.file.name}. {picked.look.trouble || "Check what each column is taken for."}
          </p>
          <RecordColumns {...picked} onChange={(columns) => setPicked({ ...picked, columns })} />
          {picked.look.dates.length > 0 && (
            <DateOrder
              readings={picked.look.dates}
              value={picked.dates}
              onChange={(dates) => setPicked({ ...picked, dates })}
            />
          )}
          {isWorking && (
            <p role="status" className="my-2 flex items-center gap-2">
              {run?.stored ? "Keeping it" : "Checking all of it"}
              <progress
                className="progress w-48"
                value={run?.progress ?? 0}
                max={1}
                aria-label="Done so far"
              />
              {Math.round(100 * (run?.progress ?? 0))} %
            </p>
          )}
          {run?.state === "done" && <Outcome run={run} zone={zone} />}
          {run?.state === "failed" && <p role="alert">It could not be read: a fault of the program.</p>}
          <p className="mt-2 flex gap-2">
            {isLookedThrough ? (
              <button
                type="button"
                className="btn btn-sm btn-primary"
                disabled={isWorking}
                onClick={() => act.mutate("store")}
              >
                Keep these rows
              </button>
            ) : (
              !run?.stored && (
                <button
                  type="button"
                  className="btn btn-sm btn-primary"
                  disabled={isWorking || (picked.look.dates.length > 0 && !picked.dates)}
                  onClick={() => {
                    setTrouble(undefined);
                    forget();
                    send.mutate(picked);
                  }}
                >
                  Check the whole file
                </button>
              )
            )}
            <button type="button" className="btn btn-sm btn-ghost" onClick={stop}>
              {run?.stored && run.state === "done" ? "Close" : "Cancel"}
            </button>
          </p>
        </div>
      )}
      {(trouble || failed) && (
        <p role="alert" className="text-stop">
          {trouble ?? `Nothing was kept: ${reasonOf(failed)}`}
        </p>
      )}
    </>
  );
}
