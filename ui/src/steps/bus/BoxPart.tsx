import { useCatalogue } from "../../api/queries";
import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { ChoiceField, NumberField, TextField, ToggleField } from "../../kit/fields";
import { Part } from "../../kit/layout";

/** The box the electronics live in: its heat on the hottest afternoon. */
function Box() {
  const { view, editor } = useDesk();
  const figure = useFigure();
  const { data: choices } = useCatalogue();
  const box = view.report.bus.box;
  const at = ["bus", "box"] as const;
  if (!box) {
    return (
      <p>
        No box told of. Radios and controllers in a closed box run hot:{" "}
        <button
          type="button"
          className="text-act hover:underline"
          disabled={!choices}
          onClick={() => editor.edit({ kind: "set", path: at, value: choices?.firsts.box })}
        >
          tell of the box
        </button>
        .
      </p>
    );
  }
  return (
    <>
      <p className="mb-2">
        On the hottest afternoon <Figure of={figure(box.hottest_c)} label="in the box" /> inside:{" "}
        <Figure of={figure(box.rise_k)} label="over the air" /> over the air, from{" "}
        <Figure of={figure(box.inside_w)} label="watts inside" /> within and{" "}
        <Figure of={figure(box.sun_w)} label="watts of sun" /> of sun. What is in it stands{" "}
        <Figure of={figure(box.limit_c)} label="limit of the electronics" />.
        {box.closed_c && (
          <>
            {" "}
            With its fan still and its vents shut it reaches{" "}
            <Figure of={figure(box.closed_c)} label="without fan and vents" />.
          </>
        )}
      </p>
      <div className="grid gap-3 sm:grid-cols-3">
        <ChoiceField label="Closed how" path={[...at, "ingress"]} choices={choices?.ingress} />
        <NumberField
          label="All its walls"
          path={[...at, "wall_cm2"]}
          dimension="area"
          known
          optional
          fallback={4200}
        />
        <NumberField
          label="Watts let go inside"
          path={[...at, "inside_w"]}
          dimension="watts"
          known
          optional
        />
        <NumberField label="Vents, free opening" path={[...at, "vent_cm2"]} dimension="area" known optional />
        <NumberField label="Fan moves, m³/h" path={[...at, "fan_m3_h"]} dimension="number" optional />
        <NumberField
          label="Fan starts at"
          path={[...at, "fan_on_c"]}
          dimension="temperature"
          known
          optional
        />
        <NumberField
          label="Electronics stand"
          path={[...at, "limit_c"]}
          dimension="temperature"
          known
          optional
        />
        <ToggleField label="Sun falls on it" path={[...at, "in_sun"]} />
        <ToggleField label="Clear lid" path={[...at, "clear"]} />
        <ToggleField label="Foil or conductive cloth in it" path={[...at, "conductive_wrap"]} />
      </div>
      <button
        type="button"
        className="btn btn-sm btn-ghost mt-2 text-act"
        onClick={() => editor.edit({ kind: "set", path: at, value: null })}
      >
        Take the box out
      </button>
    </>
  );
}

/** What nobody can work out: how it was done. */
export function AsDone() {
  const { data: choices } = useCatalogue();
  return (
    <Part title="As it is done" note="what a look at the station tells">
      <div className="grid gap-3 sm:grid-cols-3">
        <ChoiceField
          label="Disconnect between panels and controller"
          path={["bus", "panel_switch"]}
          choices={choices?.answers}
        />
        <ChoiceField label="All bonded to one earth" path={["bus", "earthed"]} choices={choices?.answers} />
        <ChoiceField
          label="Every minus past the shunt"
          path={["bus", "all_through_shunt"]}
          choices={choices?.answers}
        />
        <TextField label="The meter is read at" path={["bus", "meter_at"]} />
      </div>
    </Part>
  );
}

export function BoxPart() {
  return (
    <Part title="The box it lives in">
      <Box />
    </Part>
  );
}
