import { Trash2 } from "lucide-react";
import type { Path } from "../../api/edits";
import { useCatalogue } from "../../api/queries";
import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { ChoiceField, NumberField, TextField } from "../../kit/fields";
import { Part } from "../../kit/layout";
import { BankFields } from "./BankFields";
import { Paths } from "./Paths";

/** What a layer comes to, once it is judged. */
function Carries({ id }: { id: string }) {
  const { view } = useDesk();
  const figure = useFigure();
  const figures = view.report.store?.layers.find((layer) => layer.id === id);
  if (!figures) return null;
  return (
    <p className="flex-1 text-ink2">
      <Figure of={figure(figures.usable_wh)} /> usable, runs the station for{" "}
      <Figure of={figure(figures.hours)} />
      {figures.weight_kg && (
        <>
          , <Figure of={figure(figures.weight_kg)} />
        </>
      )}
    </p>
  );
}

function Head({ id, label, path }: { id: string; label: string; path: Path }) {
  const { editor } = useDesk();
  return (
    <div className="mb-2 flex flex-wrap items-center gap-3">
      <div className="w-56">
        <TextField label={label} path={[...path, "name"]} bare />
      </div>
      <Carries id={id} />
      <button
        type="button"
        className="p-1 text-ink2 hover:text-stop"
        aria-label={`Remove ${label.replace(": name", "")}`}
        onClick={() => editor.edit({ kind: "remove", path })}
      >
        <Trash2 size={14} />
      </button>
    </div>
  );
}

function LayerItem({ id, number }: { id: string; number: number }) {
  const { data: choices } = useCatalogue();
  const path = ["store", "layers", { id }] as const;
  return (
    <li className="border-b border-hair py-3">
      <Head id={id} label={`Second battery ${number}: name`} path={path} />
      <div className="mb-3 grid gap-3 sm:grid-cols-2">
        <ChoiceField label="What it is for" path={[...path, "role"]} choices={choices?.roles} />
        <ChoiceField label="How it is switched on" path={[...path, "joining"]} choices={choices?.joinings} />
      </div>
      <details>
        <summary className="cursor-pointer text-act">Its batteries</summary>
        <div className="mt-3">
          <BankFields path={[...path, "bank"]} />
        </div>
      </details>
    </li>
  );
}

function PackItem({ id, number }: { id: string; number: number }) {
  const path = ["store", "packs", { id }] as const;
  return (
    <li className="border-b border-hair py-3">
      <Head id={id} label={`Power pack ${number}: name`} path={path} />
      <div className="grid gap-3 sm:grid-cols-3">
        <NumberField
          label="Watt-hours on the label"
          path={[...path, "energy_wh"]}
          dimension="watt_hours"
          known
        />
        <NumberField label="Reserve it keeps" path={[...path, "cutoff_share"]} dimension="share" known />
        <NumberField label="Own consumption" path={[...path, "idle_w"]} dimension="watts" known />
        <NumberField label="Input power, max" path={[...path, "input_w"]} dimension="watts" known optional />
        <NumberField label="12 V outlet, max" path={[...path, "dc_out_a"]} dimension="amps" known optional />
        <NumberField label="AC outlet, max" path={[...path, "ac_out_w"]} dimension="watts" known optional />
        <NumberField
          label="USB outlets, max"
          path={[...path, "usb_out_w"]}
          dimension="watts"
          known
          optional
        />
        <NumberField label="DC outlet efficiency" path={[...path, "efficiency"]} dimension="share" known />
        <NumberField label="Weight" path={[...path, "unit_kg"]} dimension="weight" known optional />
      </div>
    </li>
  );
}

function freeId(taken: string[], stem: string): string {
  let number = 1;
  while (taken.includes(`${stem}-${number}`)) number++;
  return `${stem}-${number}`;
}

/** Banks beside the main one, closed power packs, and who charges whom. */
export function Layers() {
  const { view, editor } = useDesk();
  const figure = useFigure();
  const { data: choices } = useCatalogue();
  const layered = view.report.store?.layered;
  const { layers, packs } = view.document.store;
  const addLayer = () => {
    const id = freeId(
      layers.map((layer) => layer.id),
      "layer",
    );
    if (!choices) return;
    editor.edit({ kind: "insert", path: ["store", "layers"], value: { ...choices.firsts.layer, id } });
  };
  const addPack = () => {
    const id = freeId(
      packs.map((pack) => pack.id),
      "pack",
    );
    if (!choices) return;
    editor.edit({ kind: "insert", path: ["store", "packs"], value: { ...choices.firsts.pack, id } });
  };
  return (
    <Part
      title="Second battery"
      note="a backup battery or a portable box. Different batteries in parallel can damage each other: switch between them."
    >
      <ul>
        {layers.map((layer, index) => (
          <LayerItem key={layer.id} id={layer.id} number={index + 1} />
        ))}
        {packs.map((pack, index) => (
          <PackItem key={pack.id} id={pack.id} number={index + 1} />
        ))}
      </ul>
      <p className="mt-2 flex gap-2">
        <button type="button" className="btn btn-sm btn-ghost text-act" onClick={addLayer}>
          Add a second battery
        </button>
        <button type="button" className="btn btn-sm btn-ghost text-act" onClick={addPack}>
          Add a power pack
        </button>
      </p>
      {layered && (
        <p className="mt-2">
          {layered.sentence} In total <Figure of={figure(layered.together_wh)} />; the extra batteries weigh{" "}
          <Figure of={figure(layered.layers_kg)} />.
        </p>
      )}
      {(layers.length > 0 || packs.length > 0) && <Paths />}
    </Part>
  );
}
