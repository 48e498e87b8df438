import { useId } from "react";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";
import { useUnits } from "../../kit/settings";
import { type Dimension, fieldText, readQuantity } from "../../kit/units";
import { useDraft } from "../../kit/useDraft";

type Tempo = components["schemas"]["Tempo"];
type Field = "transmit_share" | "hours_per_day";
type Props = { tempo: Tempo; loadId: string; loadName: string; field: Field; dimension: Dimension };

/** One figure a tempo changes on one load; empty leaves the load its own. */
function OverrideCell({ tempo, loadId, loadName, field, dimension }: Props) {
  const id = useId();
  const { editor } = useDesk();
  const units = useUnits();
  const mine = tempo.overrides.find((item) => item.load === loadId);
  const known = mine?.[field];
  const draft = useDraft(known ? fieldText(known.value, dimension, units) : "", (text) => {
    const read = text.trim() === "" ? undefined : readQuantity(text, dimension, units);
    if (read && "error" in read) return read.error;
    const value = read ? { value: read.value, basis: "stated" as const } : null;
    const next = { load: loadId, transmit_share: null, hours_per_day: null, ...mine, [field]: value };
    const others = tempo.overrides.filter((item) => item.load !== loadId);
    const kept = next.transmit_share || next.hours_per_day ? [...others, next] : others;
    editor.edit({ kind: "set", path: ["draw", "tempos", { id: tempo.id }, "overrides"], value: kept });
    return undefined;
  });
  const what = field === "transmit_share" ? "transmit % of the time" : "hours a day";
  return (
    <>
      <input
        id={id}
        className="cell text-right"
        aria-label={`${tempo.name}, ${loadName}: ${what}`}
        aria-invalid={draft.error ? true : undefined}
        autoComplete="off"
        placeholder="own"
        value={draft.text}
        onChange={(event) => draft.change(event.target.value)}
        onBlur={draft.commit}
        onKeyDown={(event) => {
          if (event.key === "Enter") draft.commit();
          if (event.key === "Escape") draft.revert();
        }}
      />
      {draft.error && (
        <p role="alert" className="text-[12px] text-stop">
          {draft.error}
        </p>
      )}
    </>
  );
}

/** What each tempo changes on each load: share on the key and hours a day. */
export function TempoOverrides() {
  const { view } = useDesk();
  const { loads, tempos } = view.document.draw;
  return (
    <div className="overflow-x-auto">
      <table className="mt-1 w-full min-w-[30rem]">
        <thead className="text-[12px] text-ink2">
          <tr>
            <th scope="col" className="text-left font-normal">
              Transmit %, hours a day
            </th>
            {tempos.map((tempo) => (
              <th key={tempo.id} scope="col" colSpan={2} className="text-right font-normal">
                {tempo.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {loads.map((load) => (
            <tr key={load.id} className="border-t border-hair2">
              <th scope="row" className="max-w-40 truncate text-left font-normal" title={load.name}>
                {load.name}
              </th>
              {tempos.flatMap((tempo) => [
                <td key={`${tempo.id} key`} className="w-16">
                  {load.transmit_a && (
                    <OverrideCell
                      tempo={tempo}
                      loadId={load.id}
                      loadName={load.name}
                      field="transmit_share"
                      dimension="duty"
                    />
                  )}
                </td>,
                <td key={`${tempo.id} hours`} className="w-16">
                  <OverrideCell
                    tempo={tempo}
                    loadId={load.id}
                    loadName={load.name}
                    field="hours_per_day"
                    dimension="hours"
                  />
                </td>,
              ])}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
