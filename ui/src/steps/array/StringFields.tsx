import { Trash2 } from "lucide-react";
import type { PanelString } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { ChoiceField, NumberField, TextField } from "../../kit/fields";
import { CableDetails, LabelDetails, RegulatorDetails } from "./StringDetails";

/** What there is to say of a plane depends on how it stands: what follows the sun has no direction of its own. */
function PlaneFields({ string }: { string: PanelString }) {
  const path = ["array", "strings", { id: string.id }] as const;
  const { mount = "fixed" } = string;
  return (
    <div className="grid grid-cols-2 gap-3">
      {mount !== "flat" && mount !== "two_axis" && (
        <NumberField label="Tilt from flat" path={[...path, "tilt_deg"]} dimension="angle" />
      )}
      {mount === "fixed" && (
        <NumberField label="Faces (0 north, 90 east)" path={[...path, "azimuth_deg"]} dimension="angle" />
      )}
      {mount === "reaimed" && (
        <NumberField label="Times a day it is turned" path={[...path, "aims_per_day"]} dimension="count" />
      )}
    </div>
  );
}

/** One string: its panel, its plane, its controller, its cable. */
export function StringFields({ string, index }: { string: PanelString; index: number }) {
  const { view, editor } = useDesk();
  const figure = useFigure();
  const { data: choices } = useCatalogue();
  const path = ["array", "strings", { id: string.id }] as const;
  const figures = view.report.array.strings[index];
  const volts = figure(figures?.v_mp)?.value;
  const month = view.report.verdict.hard_month;
  return (
    <li className="border-b border-hair py-3 first:pt-0">
      <div className="mb-2 flex items-center gap-3">
        <div className="w-56">
          <TextField label={`String ${index + 1}: name`} path={[...path, "name"]} bare />
        </div>
        <p className="flex-1 text-ink2">
          <Figure of={figure(figures?.watts)} />
          {figures?.months_ah[month - 1] && (
            <>
              {" "}
              label watts, <Figure of={figure(figures.months_ah[month - 1])} /> a day in the worst month
            </>
          )}
        </p>
        <button
          type="button"
          className="p-1 text-ink2 hover:text-stop"
          aria-label={`Remove ${string.name}`}
          title="Remove"
          onClick={() => editor.edit({ kind: "remove", path })}
        >
          <Trash2 size={14} />
        </button>
      </div>
      <div className="grid gap-3 sm:grid-cols-3">
        <NumberField label="Watts of one panel" path={[...path, "module", "watts"]} dimension="watts" known />
        <ChoiceField label="Cells" path={[...path, "module", "cells"]} choices={choices?.cells} numeric />
        <NumberField
          label="Working volts (Vmp)"
          path={[...path, "module", "v_mp"]}
          dimension="volts"
          known
          optional
          fallback={volts === undefined || volts === null ? null : volts / (string.series ?? 1)}
        />
        <div className="grid grid-cols-2 gap-3">
          <NumberField label="In series" path={[...path, "series"]} dimension="count" />
          <NumberField label="In parallel" path={[...path, "parallel"]} dimension="count" />
        </div>
        <ChoiceField label="Mounting" path={[...path, "mount"]} choices={choices?.mounts} />
        <PlaneFields string={string} />
        <ChoiceField label="Air behind the panel" path={[...path, "fitted"]} choices={choices?.fitted} />
        <ChoiceField label="Controller" path={[...path, "controller"]} choices={choices?.controllers} />
      </div>
      <div className="mt-3 flex flex-wrap gap-x-6 gap-y-2">
        <LabelDetails path={path} cells={string.module.cells ?? 36} />
        <RegulatorDetails path={path} />
        <CableDetails path={path} id={string.id} />
      </div>
    </li>
  );
}
