import { useId } from "react";
import { useDesk } from "../../kit/context";
import { PlainSelect } from "../../kit/PlainSelect";
import type { Moment } from "./useCheck";

const SKIES = [
  ["clear", "clear"],
  ["thin", "thin cloud"],
  ["grey", "grey"],
  ["night", "night"],
] as const;
const CHARGES = [
  ["full", "full"],
  ["half", "half"],
  ["low", "low"],
  ["unknown", "not known"],
] as const;
const CHARGERS = [
  ["off", "off"],
  ["on", "charging"],
] as const;
const HOURS = Array.from({ length: 24 }, (_, hour) => ({ value: `${hour}`, label: `${hour}:00` }));

type ChipsProps = {
  label: string;
  now: string;
  choices: readonly (readonly [string, string])[];
  onChoose: (value: string) => void;
};

/** One of a few, each a key large enough for a thumb. */
function Chips({ label, now, choices, onChoose }: ChipsProps) {
  return (
    <fieldset>
      <legend className="label mb-0.5 block">{label}</legend>
      <div className="flex flex-wrap gap-1.5">
        {choices.map(([value, name]) => (
          <button
            key={value}
            type="button"
            aria-pressed={now === value}
            className={`min-h-9 rounded border px-3 ${
              now === value ? "border-act bg-actsoft font-[640] text-act" : "border-hair bg-sheet"
            }`}
            onClick={() => onChoose(value)}
          >
            {name}
          </button>
        ))}
      </div>
    </fieldset>
  );
}

type Props = { moment: Moment; hasCharger: boolean; onChange: (next: Moment) => void };

/** When the reading is taken: the sky, how full the battery is, what is transmitting, and the hour. */
export function MomentChips({ moment, hasCharger, onChange }: Props) {
  const { view } = useDesk();
  const id = useId();
  const loads = view.document.draw.loads;
  return (
    <div className="mt-3 flex flex-wrap items-end gap-x-5 gap-y-3">
      <Chips
        label="Sky"
        now={moment.sky ?? "night"}
        choices={SKIES}
        onChoose={(sky) => onChange({ ...moment, sky: sky as Moment["sky"] })}
      />
      <Chips
        label="Battery"
        now={moment.charge ?? "unknown"}
        choices={CHARGES}
        onChoose={(charge) => onChange({ ...moment, charge: charge as Moment["charge"] })}
      />
      {hasCharger && (
        <Chips
          label="Charger or engine"
          now={moment.charger ? "on" : "off"}
          choices={CHARGERS}
          onChoose={(state) => onChange({ ...moment, charger: state === "on" })}
        />
      )}
      <PlainSelect
        id={`${id}-keyed`}
        label="Transmitting"
        value={moment.keyed}
        choices={[
          { value: "", label: "nothing" },
          ...loads.filter((load) => load.transmit_a).map((load) => ({ value: load.id, label: load.name })),
        ]}
        onChange={(event) => onChange({ ...moment, keyed: event.target.value })}
      />
      <PlainSelect
        id={`${id}-hour`}
        label="Hour"
        value={`${moment.hour}`}
        choices={HOURS}
        onChange={(event) => onChange({ ...moment, hour: Number(event.target.value) })}
      />
    </div>
  );
}
