import { useState } from "react";
import { answer, asFile, client, type Load, reasonOf } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";

type ReadTable = components["schemas"]["ReadTable"];
const MOST_PREVIEWED = 12;
const COLUMNS: [string, string][] = [
  ["", "left out"],
  ["name", "name"],
  ["kind", "kind"],
  ["quantity", "quantity"],
  ["standby_a", "standby amps"],
  ["receive_a", "receive amps"],
  ["transmit_a", "transmit amps"],
  ["transmit_share_percent", "transmit % of the time"],
  ["rated_w", "rated watts"],
  ["power_w", "power setting, watts"],
  ["mode", "mode"],
  ["hours_per_day", "hours a day"],
  ["rail", "supply line"],
  ["tier", "priority"],
  ["interlock", "not at the same time as"],
];

type AskProps = { table: ReadTable; onSay: (columns: (string | null)[]) => void };

/** Headings nobody here knows: a person says what they are, or that they be left out. */
function Ask({ table, onSay }: AskProps) {
  const [columns, setColumns] = useState(table.columns);
  return (
    <fieldset className="mt-2">
      <legend>
        Not understood: {table.unknown.map((heading) => `“${heading}”`).join(", ")}. What is it?
      </legend>
      {table.headings.map((heading, place) =>
        table.columns[place] === null && table.unknown.includes(heading || `column ${place + 1}`) ? (
          <label key={place} className="mr-4 inline-flex items-center gap-1.5">
            {heading || `column ${place + 1}`}
            <select
              className="field"
              value={columns[place] ?? ""}
              onChange={(event) =>
                setColumns(columns.map((one, index) => (index === place ? event.target.value || null : one)))
              }
            >
              {COLUMNS.map(([value, name]) => (
                <option key={value} value={value}>
                  {name}
                </option>
              ))}
            </select>
          </label>
        ) : null,
      )}
      <button type="button" className="btn btn-sm" onClick={() => onSay(columns)}>
        Read it so
      </button>
    </fieldset>
  );
}

function Preview({ table }: { table: ReadTable }) {
  if (table.faults.length > 0) {
    return (
      <ul role="alert" className="mt-2 text-stop">
        {table.faults.slice(0, MOST_PREVIEWED).map((fault, index) => (
          <li key={index}>
            line {fault.line}
            {fault.column && `, ${fault.column}`}: {fault.message}
          </li>
        ))}
      </ul>
    );
  }
  const taken = table.columns.filter((column) => column !== null).join(", ");
  return (
    <div className="mt-2">
      <p className="text-ink2">
        {table.had_heading
          ? "Columns found by their headings"
          : "No headings found. We guessed the columns from their contents"}
        : {taken}.
      </p>
      <ul>
        {table.loads.slice(0, MOST_PREVIEWED).map((load) => (
          <li key={load.id}>
            <b className="font-[640]">{load.name}</b> · {load.quantity} × {load.receive_a.value} A
            {load.transmit_a &&
              ` · transmits ${load.transmit_a.value} A, ${Math.round((load.transmit_share?.value ?? 0) * 1000) / 10} %`}
            {` · ${load.hours_per_day?.value ?? 24} h a day`}
          </li>
        ))}
      </ul>
      {table.loads.length > MOST_PREVIEWED && <p>and {table.loads.length - MOST_PREVIEWED} more</p>}
    </div>
  );
}

/** The ledger out as CSV; CSV or a spreadsheet's clipboard in, with a preview before anything changes. */
export function TableImport() {
  const { view, editor } = useDesk();
  const [text, setText] = useState("");
  const [table, setTable] = useState<ReadTable>();
  const [trouble, setTrouble] = useState<string>();
  const look = async (next: string, columns: (string | null)[] = []) => {
    setText(next);
    setTable(undefined);
    setTrouble(undefined);
    if (next.trim() === "") return;
    try {
      const params = { path: { design_id: view.id } };
      setTable(
        await answer(
          client.POST("/api/designs/{design_id}/loads/read", { params, body: { text: next, columns } }),
        ),
      );
    } catch (error) {
      setTrouble((error as Error).message);
    }
  };
  const bring = async (file: File) => {
    try {
      const params = { query: { name: file.name } };
      const read = await answer(client.POST("/api/tables/text", { params, ...asFile(file) }));
      await look(read.text);
    } catch (error) {
      setTrouble(reasonOf(error));
    }
  };
  const take = (loads: Load[], keep: boolean) => {
    const value = keep ? [...view.document.draw.loads, ...loads] : loads;
    editor.edit({ kind: "set", path: ["draw", "loads"], value });
    void look("");
  };
  const isAsked = table !== undefined && table.unknown.length > 0;
  const good = table && !isAsked && table.faults.length === 0 && table.loads.length > 0;
  return (
    <Part title="Import or export the table" note="CSV or ODS, or cells copied from a spreadsheet">
      <p className="mb-2 flex flex-wrap items-center gap-3">
        <a className="btn btn-sm btn-ghost text-act" href={`/api/designs/${view.id}/loads.csv`} download>
          Download loads as CSV
        </a>
        <input
          type="file"
          accept=".csv,.tsv,.txt,.ods"
          aria-label="Table file"
          className="file-picker text-[12px]"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) void bring(file);
            event.target.value = "";
          }}
        />
      </p>
      <textarea
        className="field font-mono text-[12px]"
        aria-label="Table of loads to paste"
        rows={3}
        placeholder={"name\treceive\ttransmit\tduty %\thours\nHF set\t1.6 A\t22 A\t6 %\t8"}
        value={text}
        onChange={(event) => void look(event.target.value)}
      />
      {trouble && (
        <p role="alert" className="text-stop">
          {trouble}
        </p>
      )}
      {table && <Preview table={table} />}
      {table && isAsked && (
        <Ask key={table.headings.join("\t")} table={table} onSay={(columns) => void look(text, columns)} />
      )}
      {good && (
        <p className="mt-2 flex gap-2">
          <button type="button" className="btn btn-sm btn-primary" onClick={() => take(table.loads, true)}>
            Add {table.loads.length === 1 ? "this load" : `these ${table.loads.length} loads`}
          </button>
          <button type="button" className="btn btn-sm" onClick={() => take(table.loads, false)}>
            Replace all loads
          </button>
        </p>
      )}
    </Part>
  );
}
