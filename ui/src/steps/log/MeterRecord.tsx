import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ChangeEvent, useRef, useState } from "react";
import { answer, asFile, client, reasonOf } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";
import { Part, Wide } from "../../kit/layout";
import { PlanAgainst } from "./PlanAgainst";

type Preview = components["schemas"]["MeterPreview"];
type Picked = { file: File; look: Preview; columns: string[] };
const LOOK_BYTES = 200_000;
const TAKEN_FOR: [string, string][] = [
  ["", "left out"],
  ["time", "time"],
  ["volts", "bank volts"],
  ["charge_a", "charging amps"],
  ["load_a", "load amps"],
  ["charge_share", "state of charge"],
  ["box_c", "temperature of the box"],
];

/** What each column of a file is taken for, with its first rows beneath. */
function Columns({ picked, onChange }: { picked: Picked; onChange: (columns: string[]) => void }) {
  return (
    <Wide label="Columns of the file">
      <table className="w-full">
        <thead>
          <tr>
            {picked.look.columns.map((column, place) => (
              <th key={`${column.heading} ${place}`} scope="col" className="px-2 text-left font-normal">
                {column.heading || `column ${place + 1}`}
                <select
                  aria-label={`${column.heading || `column ${place + 1}`} is`}
                  className="field"
                  value={picked.columns[place]}
                  onChange={(event) =>
                    onChange(picked.columns.map((one, index) => (index === place ? event.target.value : one)))
                  }
                >
                  {TAKEN_FOR.map(([value, name]) => (
                    <option key={value} value={value}>
                      {name}
                    </option>
                  ))}
                </select>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {picked.look.rows.map((row, number) => (
            <tr key={number} className="border-t border-hair2 text-[12px] text-ink2">
              {row.map((cell, place) => (
                <td key={place} className="px-2">
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </Wide>
  );
}

function Bring() {
  const { view } = useDesk();
  const cache = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [picked, setPicked] = useState<Picked>();
  const [words, setWords] = useState<string>();
  const [trouble, setTrouble] = useState<string>();
  const pick = async (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    event.target.value = "";
    if (!file) return;
    setWords(undefined);
    setTrouble(undefined);
    try {
      // A table of text can be looked at from its beginning; a packed one only as a whole.
      const part = file.name.toLowerCase().endsWith(".ods") ? file : file.slice(0, LOOK_BYTES);
      const params = { query: { name: file.name } };
      const look = await answer(client.POST("/api/records/look", { params, ...asFile(part) }));
      setPicked({ file, look, columns: look.columns.map((column) => column.taken_for ?? "") });
    } catch (error) {
      setTrouble(reasonOf(error));
    }
  };
  const bring = useMutation({
    mutationFn: ({ file, columns }: Picked) =>
      answer(
        client.POST("/api/designs/{design_id}/record", {
          params: { path: { design_id: view.id }, query: { name: file.name, columns: columns.join(",") } },
          ...asFile(file),
        }),
      ),
    onSuccess: (done) => {
      setPicked(undefined);
      setWords([`${done.new} of ${done.rows} rows are new.`, ...done.notes].join(" · "));
      void cache.invalidateQueries({ queryKey: ["record", view.site_id] });
      void cache.invalidateQueries({ queryKey: ["series", view.site_id] });
    },
    onError: (error) => setTrouble(`Nothing was brought in. ${reasonOf(error)}`),
  });
  return (
    <>
      <button type="button" className="btn btn-sm btn-ghost text-act" onClick={() => input.current?.click()}>
        Bring a meter’s record in
      </button>
      <input
        ref={input}
        type="file"
        accept=".csv,.tsv,.txt,.ods"
        aria-label="A meter’s record"
        className="sr-only"
        tabIndex={-1}
        onChange={pick}
      />
      {picked && (
        <div className="my-2">
          <p>
            {picked.file.name}. {picked.look.trouble || "Look whether each column is what it is taken for."}
          </p>
          <Columns picked={picked} onChange={(columns) => setPicked({ ...picked, columns })} />
          <p className="flex gap-2">
            <button
              type="button"
              className="btn btn-sm btn-primary"
              disabled={bring.isPending}
              onClick={() => {
                setTrouble(undefined);
                bring.mutate(picked);
              }}
            >
              {bring.isPending ? "Bringing it in …" : "Bring it in"}
            </button>
            <button type="button" className="btn btn-sm btn-ghost" onClick={() => setPicked(undefined)}>
              Leave it
            </button>
          </p>
        </div>
      )}
      {words && <p role="status">{words}</p>}
      {trouble && (
        <p role="alert" className="text-stop">
          {trouble}
        </p>
      )}
    </>
  );
}

/** What meters recorded, and the plan against it. */
export function MeterRecord() {
  const { view } = useDesk();
  const { data } = useQuery({
    queryKey: ["record", view.site_id, view.id, view.revision],
    placeholderData: (before) => before,
    queryFn: () =>
      answer(client.GET("/api/designs/{design_id}/record", { params: { path: { design_id: view.id } } })),
  });
  return (
    <Part title="Plan against measured" note="what a monitor or controller wrote, by any interval">
      {data && <PlanAgainst record={data} />}
      <Bring />
    </Part>
  );
}
