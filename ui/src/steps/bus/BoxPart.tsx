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
        No box described. Radios and controllers overheat in a closed box:{" "}
        <button
          type="button"
          className="text-act hover:underline"
          disabled={!choices}
          onClick={() => editor.edit({ kind: "set", path: at, value: choices?.firsts.box })}
        >
          describe the box
        </button>
        .
      </p>
    );
  }
  return (
    <>
      <p className="mb-2">
        On the hottest afternoon the box reaches <Figure of={figure(box.hottest_c)} label="in the box" />{" "}
        inside. That is <Figure of={figure(box.rise_k)} label="above the outside air" /> above the outside
        air, from <Figure of={figure(box.inside_w)} label="watts inside" /> of heat inside and{" "}
        <Figure of={figure(box.sun_w)} label="watts of sun" /> of sun. The equipment withstands{" "}
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
        <ChoiceField label="How closed it is" path={[...at, "ingress"]} choices={choices?.ingress} />
        <NumberField
          label="Wall area, all sides"
          path={[...at, "wall_cm2"]}
          dimension="area"
          known
          optional
          fallback={4200}
        />
        <NumberField label="Heat inside, watts" path={[...at, "inside_w"]} dimension="watts" known optional />
        <NumberField label="Vent opening" path={[...at, "vent_cm2"]} dimension="area" known optional />
        <NumberField label="Fan airflow, m³/h" path={[...at, "fan_m3_h"]} dimension="number" optional />
        <NumberField
          label="Fan starts at"
          path={[...at, "fan_on_c"]}
          dimension="temperature"
          known
          optional
        />
        <NumberField
          label="Electronics withstand"
          path={[...at, "limit_c"]}
          dimension="temperature"
          known
          optional
        />
        <ToggleField label="It is in the sun" path={[...at, "in_sun"]} />
        <ToggleField label="Clear lid" path={[...at, "clear"]} />
        <ToggleField label="Foil or conductive cloth inside" path={[...at, "conductive_wrap"]} />
      </div>
      <button
        type="button"
        className="btn btn-sm btn-ghost mt-2 text-act"
        onClick={() => editor.edit({ kind: "set", path: at, value: null })}
      >
        Remove the box
      </button>
    </>
  );
}

/** What nobody can work out: how it was done. */
export function AsDone() {
  const { data: choices } = useCatalogue();
  return (
    <Part title="How it is wired" note="check these at the station">
      <div className="grid gap-3 sm:grid-cols-3">
        <ChoiceField
          label="Disconnect switch between panels and controller"
          path={["bus", "panel_switch"]}
          choices={choices?.answers}
        />
        <ChoiceField
          label="Everything bonded to one earth (ground)"
          path={["bus", "earthed"]}
          choices={choices?.answers}
        />
        <ChoiceField
          label="All minus leads go through the shunt"
          path={["bus", "all_through_shunt"]}
          choices={choices?.answers}
        />
        <TextField label="Where the battery meter is read" path={["bus", "meter_at"]} />
      </div>
    </Part>
  );
}

export function BoxPart() {
  return (
    <Part title="The equipment box">
      <Box />
    </Part>
  );
}
