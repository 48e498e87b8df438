import { useState } from "react";
import type { Path } from "../../api/edits";
import { useCatalogue } from "../../api/queries";
import type { components } from "../../api/schema";
import { useDesk, useField } from "../../kit/context";
import { ChoiceField } from "../../kit/fields";

type Bank = components["schemas"]["Bank"];

/** What a place and a habit are, not a battery: it stays when a new one moves in. */
const STAYS = [
  "series",
  "parallel",
  "housing",
  "cold_c",
  "box_w",
  "box_in_sun",
  "vent_cm2",
  "restart",
] as const;

/** The chemistry. Another one asks whether it is another battery: its label, age and limits are those of the old one. */
export function ChemistryField({ path }: { path: Path }) {
  const { data: choices } = useCatalogue();
  const { editor } = useDesk();
  const bank = useField<Bank>(path);
  const [was, setWas] = useState(bank.value.chemistry);
  const label = (value: string) => choices?.chemistries.find((item) => item.value === value)?.label ?? value;
  const now = bank.value.chemistry;
  const renew = () => {
    const fresh = choices?.firsts.banks[now ?? "agm"];
    if (!fresh) return;
    const kept = Object.fromEntries(STAYS.map((name) => [name, bank.value[name]]));
    editor.edit({ kind: "set", path, value: { ...fresh, ...kept } });
    setWas(now);
  };
  return (
    <div>
      <ChoiceField label="Chemistry" path={[...path, "chemistry"]} choices={choices?.chemistries} />
      {was !== now && (
        <div role="status" className="mt-1 text-[12px]">
          <p>
            Is this a new battery? The label, volts, age, depth and limits are still those of the{" "}
            {label(was ?? "")} battery.
          </p>
          <p className="mt-1 flex flex-wrap gap-2">
            <button type="button" className="btn btn-xs btn-primary" onClick={renew}>
              Yes, a new {label(now ?? "")} battery
            </button>
            <button type="button" className="btn btn-xs" onClick={() => setWas(now)}>
              No, the same battery
            </button>
          </p>
        </div>
      )}
    </div>
  );
}
