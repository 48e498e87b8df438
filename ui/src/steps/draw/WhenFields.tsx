import type { Load } from "../../api/client";
import type { Edit } from "../../api/edits";
import { useCatalogue } from "../../api/queries";
import { useDesk } from "../../kit/context";
import { ChoiceField, NumberField } from "../../kit/fields";
import { PlainSelect } from "../../kit/PlainSelect";

type When = "hours" | "pattern" | "events" | "thermostat";
const CHOICES: { value: When; label: string }[] = [
  { value: "hours", label: "hours a day" },
  { value: "pattern", label: "at set hours" },
  { value: "events", label: "a number of times a day" },
  { value: "thermostat", label: "by temperature" },
];
const SIDES = [
  { value: "above", label: "while warmer than", hint: "" },
  { value: "below", label: "while colder than", hint: "" },
];

function whenOf(load: Load): When {
  if (load.pattern) return "pattern";
  if (load.events) return "events";
  return load.thermostat ? "thermostat" : "hours";
}

/** Twenty-four switches, midnight first; part of an hour counts as given. */
function PatternField({ load }: { load: Load }) {
  const { editor } = useDesk();
  const pattern = load.pattern ?? [];
  const flip = (hour: number) => {
    const next = pattern.map((share, index) => (index === hour ? (share > 0 ? 0 : 1) : share));
    editor.edit({ kind: "set", path: ["draw", "loads", { id: load.id }, "pattern"], value: next });
  };
  return (
    <fieldset className="sm:col-span-2">
      <legend className="label mb-0.5">Hours of the day it is on</legend>
      <div className="grid grid-cols-12 gap-0.5">
        {pattern.map((share, hour) => (
          <button
            key={hour}
            type="button"
            aria-pressed={share > 0}
            aria-label={`${hour} to ${hour + 1} o’clock`}
            className={`h-6 rounded border text-[11px] ${share > 0 ? "border-act bg-actsoft font-[640] text-act" : "border-hair text-ink2"}`}
            onClick={() => flip(hour)}
          >
            {hour}
          </button>
        ))}
      </div>
    </fieldset>
  );
}

/** When a load runs. */
export function WhenFields({ load }: { load: Load }) {
  const { view, editor } = useDesk();
  const { data: choices } = useCatalogue();
  const path = ["draw", "loads", { id: load.id }] as const;
  const when = whenOf(load);
  const guessed = view.report.draw.loads.find((item) => item.id === load.id)?.guessed_hours;
  const choose = (next: When) => {
    const edits: Edit[] = (["pattern", "events", "thermostat"] as const).map((name) => ({
      kind: "set",
      path: [...path, name],
      value: name === next ? (choices?.firsts[name] ?? null) : null,
    }));
    editor.edit(...edits);
  };
  return (
    <>
      <PlainSelect
        id={`when-${load.id}`}
        label="When it runs"
        choices={CHOICES}
        value={when}
        disabled={!choices}
        onChange={(event) => choose(event.target.value as When)}
      />
      {when === "hours" && (
        <NumberField
          label="Hours a day"
          path={[...path, "hours_per_day"]}
          dimension="hours"
          known
          hint={guessed ? `We assume it runs ${guessed}. Choose “at set hours” to change that.` : undefined}
        />
      )}
      {when === "pattern" && <PatternField load={load} />}
      {when === "events" && (
        <>
          <NumberField label="Times a day" path={[...path, "events", "per_day"]} dimension="number" />
          <NumberField label="Minutes each time" path={[...path, "events", "minutes"]} dimension="number" />
        </>
      )}
      {when === "thermostat" && (
        <>
          <ChoiceField label="On" path={[...path, "thermostat", "when"]} choices={SIDES} />
          <NumberField
            label="Temperature"
            path={[...path, "thermostat", "at_c"]}
            dimension="temperature"
            known
          />
        </>
      )}
    </>
  );
}
