import type { Path } from "../api/edits";
import { useField } from "./context";
import { useHelp } from "./useHelp";

type Check = { value: string; label: string };

/** Any of a few things, each with a box to tick. */
export function ChecksField({ label, path, choices }: { label: string; path: Path; choices: Check[] }) {
  const field = useField<string[]>(path);
  const help = useHelp(path);
  return (
    <fieldset>
      <legend className="label mb-0.5">{label}</legend>
      {choices.map(({ value, label: name }) => (
        <label key={value} className="flex items-center gap-2">
          <input
            type="checkbox"
            {...help}
            checked={field.value.includes(value)}
            onChange={(event) =>
              field.set(
                event.target.checked ? [...field.value, value] : field.value.filter((item) => item !== value),
              )
            }
          />
          {name}
        </label>
      ))}
    </fieldset>
  );
}
