import type { ComponentPropsWithRef } from "react";

type Props = ComponentPropsWithRef<"select"> & {
  id: string;
  label: string;
  choices: { value: string; label: string }[] | undefined;
};

/** A labelled choice that is not a field of the document. */
export function PlainSelect({ label, choices, ...select }: Props) {
  return (
    <div>
      <label htmlFor={select.id} className="label mb-0.5 block">
        {label}
      </label>
      <select className="field" {...select}>
        {choices?.map((choice) => (
          <option key={choice.value} value={choice.value}>
            {choice.label}
          </option>
        ))}
      </select>
    </div>
  );
}
