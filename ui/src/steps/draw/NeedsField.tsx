import type { Path } from "../../api/edits";
import { useField } from "../../kit/context";

const NEEDS: [string, string][] = [
  ["mains", "the house mains"],
  ["internet", "the internet"],
  ["neighbour", "a neighbour’s network"],
];

/** What a load is pointless without. */
export function NeedsField({ path }: { path: Path }) {
  const field = useField<string[]>(path);
  return (
    <fieldset>
      <legend className="label mb-0.5">Pointless without</legend>
      {NEEDS.map(([need, name]) => (
        <label key={need} className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={field.value.includes(need)}
            onChange={(event) =>
              field.set(
                event.target.checked ? [...field.value, need] : field.value.filter((item) => item !== need),
              )
            }
          />
          {name}
        </label>
      ))}
    </fieldset>
  );
}
