import { Trash2 } from "lucide-react";
import { useDesk } from "../../kit/context";
import { ChoiceField, NumberField, TextField, ToggleField } from "../../kit/fields";
import { Part } from "../../kit/layout";
import type { ShelfView } from "./useShelf";

type Outing = ShelfView["document"]["outings"][number];

function Takes({ outing, view }: { outing: Outing; view: ShelfView }) {
  const { editor } = useDesk();
  const path = ["outings", { id: outing.id }, "takes"] as const;
  const choices = view.document.parts.map((part) => ({ value: part.id, label: part.name, hint: "" }));
  const unused = choices.find((choice) => !outing.takes.some((away) => away.part === choice.value));
  return (
    <div className="basis-full">
      {outing.takes.map((away, index) => (
        <div key={`${away.part} ${index}`} className="mb-1 grid grid-cols-[1fr_6rem_2rem] gap-2">
          <ChoiceField
            label={`${outing.name}: takes, ${index + 1}`}
            path={[...path, index, "part"]}
            choices={choices}
            bare
          />
          <NumberField
            label={`${outing.name}: how many, ${index + 1}`}
            path={[...path, index, "count"]}
            dimension="count"
            bare
          />
          <button
            type="button"
            className="p-1 text-ink2 hover:text-stop"
            aria-label={`${outing.name}: leave number ${index + 1} at home`}
            onClick={() => editor.edit({ kind: "remove", path: [...path, index] })}
          >
            <Trash2 size={14} />
          </button>
        </div>
      ))}
      {unused && (
        <button
          type="button"
          className="btn btn-xs btn-ghost text-act"
          onClick={() => editor.edit({ kind: "insert", path, value: { part: unused.value, count: 1 } })}
        >
          Take something along
        </button>
      )}
    </div>
  );
}

/** Kit that travels: what is taken along, and that it is missing meanwhile. */
export function Outings({ view }: { view: ShelfView }) {
  const { editor } = useDesk();
  const { outings } = view.document;
  const add = () => {
    const taken = new Set(outings.map((outing) => outing.id));
    let number = 1;
    while (taken.has(`outing-${number}`)) number++;
    const value = {
      id: `outing-${number}`,
      name: `Outing ${number}`,
      first_day: "",
      last_day: "",
      out: false,
      takes: [],
    };
    editor.edit({ kind: "insert", path: ["outings"], value });
  };
  return (
    <Part title="Outings" note="what is taken along is missing where it is used until it is back">
      {outings.length === 0 && (
        <p className="mb-2 text-ink2">None yet. A field day that takes the spare battery, say.</p>
      )}
      {outings.map((outing) => {
        const path = ["outings", { id: outing.id }] as const;
        return (
          <section
            key={outing.id}
            aria-label={outing.name}
            className="mb-3 grid items-end gap-3 border-b border-hair2 pb-3 sm:grid-cols-[1.5fr_1fr_1fr_1fr_auto]"
          >
            <TextField label="Outing" path={[...path, "name"]} />
            <TextField label="Leaves on" path={[...path, "first_day"]} />
            <TextField label="Back on" path={[...path, "last_day"]} />
            <ToggleField label="It is out now" path={[...path, "out"]} />
            <button
              type="button"
              className="p-1 text-ink2 hover:text-stop"
              aria-label={`Remove ${outing.name}`}
              onClick={() => editor.edit({ kind: "remove", path })}
            >
              <Trash2 size={14} />
            </button>
            <div className="sm:col-span-5">
              <Takes outing={outing} view={view} />
            </div>
          </section>
        );
      })}
      <button type="button" className="btn btn-sm btn-ghost text-act" onClick={add}>
        Add an outing
      </button>
    </Part>
  );
}
