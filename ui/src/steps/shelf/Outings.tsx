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
            aria-label={`${outing.name}: remove part ${index + 1}`}
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
          Add a part to take
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
    <Part title="Outings" note="parts on an outing are missing from their station until they return">
      {outings.length === 0 && (
        <p className="mb-2 text-ink2">
          No outings yet. Add one when parts leave, such as a field day that takes the spare battery.
        </p>
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
            <TextField label="Leaves on (date)" path={[...path, "first_day"]} />
            <TextField label="Returns on (date)" path={[...path, "last_day"]} />
            <ToggleField label="Away now" path={[...path, "out"]} />
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
