import { Trash2 } from "lucide-react";
import { useCatalogue } from "../../api/queries";
import { Cautions } from "../../kit/Cautions";
import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { ChoiceField, NumberField, TextField } from "../../kit/fields";
import { Part } from "../../kit/layout";

function RailRow({ index }: { index: number }) {
  const { view, editor } = useDesk();
  const figure = useFigure();
  const rail = view.document.draw.rails[index];
  const figures = view.report.draw.rails[index];
  if (!rail) return null;
  const path = ["draw", "rails", { id: rail.id }] as const;
  const { layers, packs } = view.document.store;
  const plain = (item: { id: string; name: string }) => ({ value: item.id, label: item.name, hint: "" });
  const banks = [
    { value: "main", label: "the main battery", hint: "" },
    ...layers.map(plain),
    ...packs.map(plain),
  ];
  const controllers = [
    { value: "", label: "no controller", hint: "" },
    ...view.document.array.strings.map((string) => ({
      ...plain(string),
      label: `${string.name}’s controller`,
    })),
  ];
  const hanging = view.document.draw.loads.filter((load) => load.rail === rail.id);
  const curve = figures?.efficiency.map(
    (point) => `${Math.round(point.efficiency * 100)} % at ${Math.round(point.load_w)} W`,
  );
  return (
    <li className="border-b border-hair py-3">
      <div className="mb-2 flex items-center gap-3">
        <div className="w-56">
          <TextField label={`Supply line ${index + 1}: name`} path={[...path, "name"]} bare />
        </div>
        <p className="flex-1 text-[12px] text-ink2">
          {hanging.length ? hanging.map((load) => load.name).join(", ") : "no load on it"}
        </p>
        <button
          type="button"
          className="p-1 text-ink2 hover:text-stop disabled:opacity-40"
          aria-label={`Remove ${rail.name}`}
          title={hanging.length ? "Loads run from it. Move them first." : "Remove"}
          disabled={hanging.length > 0}
          onClick={() => editor.edit({ kind: "remove", path })}
        >
          <Trash2 size={14} />
        </button>
      </div>
      <div className="grid gap-3 sm:grid-cols-3">
        <NumberField label="Volts" path={[...path, "volts"]} dimension="volts" known />
        <NumberField label="Best efficiency" path={[...path, "efficiency"]} dimension="share" known />
        <NumberField label="Idle power" path={[...path, "idle_w"]} dimension="watts" known />
        <NumberField label="Hours a day it is on" path={[...path, "on_hours"]} dimension="hours" known />
        <NumberField label="Outlet limit" path={[...path, "limit_a"]} dimension="amps" known optional />
        <ChoiceField label="Fed from" path={[...path, "bank"]} choices={banks} />
        <ChoiceField
          label="Load output of controller"
          path={[...path, "outlet_of"]}
          choices={controllers}
          emptyIsNull
        />
        {rail.kind === "inverter" && (
          <NumberField label="Rated power" path={[...path, "rated_w"]} dimension="watts" known optional />
        )}
      </div>
      {figures && (
        <p className="mt-2">
          Uses <Figure of={figure(figures.idle_ah)} /> a day when idle. At peak it gives{" "}
          <Figure of={figure(figures.peak_w)} /> and takes <Figure of={figure(figures.low_end_a)} /> from a
          nearly empty battery.
          {curve && curve.length > 0 && (
            <span className="text-ink2"> Efficiency with idle power included: {curve.join(", ")}.</span>
          )}
        </p>
      )}
    </li>
  );
}

/** Converters, outlets and inverters; and what going direct would save. */
export function Rails() {
  const { view, editor } = useDesk();
  const figure = useFigure();
  const { data: catalogue } = useCatalogue();
  const rails = view.document.draw.rails;
  const names = new Map(view.document.draw.loads.map((load) => [load.id, load.name]));
  const add = (id: string) => {
    const usual = catalogue?.usual_rails.find((rail) => rail.id === id);
    if (!usual) return;
    const taken = new Set(rails.map((rail) => rail.id));
    let free = id;
    for (let number = 2; taken.has(free); number++) free = `${id}-${number}`;
    editor.edit({ kind: "insert", path: ["draw", "rails"], value: { ...usual, id: free } });
  };
  return (
    <Part
      title="Supply lines"
      note="loads behind a converter, an outlet or an inverter; all others run straight from the battery bus"
    >
      <Cautions step="draw" at="rails" />
      <ul>
        {rails.map((rail, index) => (
          <RailRow key={rail.id} index={index} />
        ))}
      </ul>
      {view.report.draw.direct.map((item) => (
        <p key={item.load_id} className="mt-2">
          Run {names.get(item.load_id)} straight from the battery bus to save{" "}
          <Figure of={figure(item.saved_ah)} /> a day.
        </p>
      ))}
      <select
        aria-label="Add a supply line"
        className="field mt-2 w-56"
        value=""
        onChange={(event) => add(event.target.value)}
      >
        <option value="">Add a supply line…</option>
        {catalogue?.usual_rails.map((rail) => (
          <option key={rail.id} value={rail.id}>
            {rail.name}
          </option>
        ))}
      </select>
    </Part>
  );
}
