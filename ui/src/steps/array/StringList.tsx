import { Trash2 } from "lucide-react";
import type { PanelString } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { useKey } from "../../app/useKeys";
import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { ChoiceField, NumberField, TextField } from "../../kit/fields";

function newString(id: string, latitude: number): PanelString {
  return {
    id,
    name: "New string",
    module: { watts: { value: 100, basis: "default" }, cells: 36, working_v: null },
    series: 1,
    parallel: 1,
    mount: "fixed",
    aims_per_day: 3,
    fitted: "rack",
    tilt_deg: 30,
    azimuth_deg: latitude < 0 ? 0 : 180,
    controller: "pwm",
  };
}

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
        <NumberField label="Turned, times a day" path={[...path, "aims_per_day"]} dimension="count" />
      )}
    </div>
  );
}

function StringFields({ string, index }: { string: PanelString; index: number }) {
  const { view, editor } = useDesk();
  const figure = useFigure();
  const { data: choices } = useCatalogue();
  const path = ["array", "strings", { id: string.id }] as const;
  const figures = view.report.array.strings[index];
  const volts = figure(figures?.working_v)?.value;
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
              on the labels, <Figure of={figure(figures.months_ah[month - 1])} /> a day in the hard month
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
          path={[...path, "module", "working_v"]}
          dimension="volts"
          known
          optional
          fallback={volts === undefined || volts === null ? null : volts / (string.series ?? 1)}
        />
        <div className="grid grid-cols-2 gap-3">
          <NumberField label="In series" path={[...path, "series"]} dimension="count" />
          <NumberField label="In parallel" path={[...path, "parallel"]} dimension="count" />
        </div>
        <ChoiceField label="How it stands" path={[...path, "mount"]} choices={choices?.mounts} />
        <PlaneFields string={string} />
        <ChoiceField label="What is behind it" path={[...path, "fitted"]} choices={choices?.fitted} />
        <ChoiceField label="Controller" path={[...path, "controller"]} choices={choices?.controllers} />
      </div>
    </li>
  );
}

/** The strings of the array, each with its panel, plane and controller. */
export function StringList() {
  const { view, editor } = useDesk();
  const strings = view.document.array.strings;
  const add = () => {
    const taken = new Set(strings.map((string) => string.id));
    let number = strings.length + 1;
    while (taken.has(`string-${number}`)) number++;
    const value = newString(`string-${number}`, view.document.place?.latitude_deg ?? 0);
    editor.edit({ kind: "insert", path: ["array", "strings"], value });
  };
  useKey("n", add, [strings]);
  return (
    <>
      {strings.length === 0 && (
        <p className="py-2 text-[14px]">
          No panels yet. Press <kbd className="kbd kbd-sm">n</kbd>: one 100 W panel at 65° brings about 15 Ah
          a day in a mid-latitude winter month.
        </p>
      )}
      <ul>
        {strings.map((string, index) => (
          <StringFields key={string.id} string={string} index={index} />
        ))}
      </ul>
      <button type="button" className="btn btn-sm btn-ghost mt-2 text-act" onClick={add}>
        New string <kbd className="opacity-70">n</kbd>
      </button>
    </>
  );
}
