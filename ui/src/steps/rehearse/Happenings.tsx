import { Trash2 } from "lucide-react";
import { type Control, type UseFormReturn, useFieldArray, useWatch } from "react-hook-form";
import { useDesk } from "../../kit/context";
import { PlainSelect } from "../../kit/PlainSelect";
import { hourWords, KINDS, type Kind, readHour } from "./happenings";
import type { SceneForm } from "./sceneForm";

type Props = { form: UseFormReturn<SceneForm> };

function Row({ form, index, remove }: Props & { index: number; remove: () => void }) {
  const { view } = useDesk();
  const kind = useWatch({ control: form.control as Control<SceneForm>, name: `happenings.${index}.kind` });
  const about = KINDS.find((item) => item.value === kind);
  const errors = form.formState.errors.happenings?.[index];
  const at = `happening-${index}`;
  const field = (name: "from" | "to" | "amount", label: string) => (
    <div className={name === "amount" ? "w-24" : "w-32"}>
      <label htmlFor={`${at}-${name}`} className="label mb-0.5 block">
        {label}
      </label>
      <input
        id={`${at}-${name}`}
        className="field"
        inputMode="decimal"
        aria-invalid={errors?.[name] ? true : undefined}
        aria-describedby={`${at}-error`}
        {...form.register(`happenings.${index}.${name}`, {
          validate: (text) =>
            name === "amount"
              ? /^\d+(\.\d+)?$/.test(text.trim()) || "type a number, such as 3"
              : readHour(text) !== undefined || "type a day and a full hour, such as day 3, 18:00",
        })}
      />
    </div>
  );
  return (
    <li className="flex flex-wrap items-end gap-3 py-1">
      <div className="w-60">
        <PlainSelect
          id={`${at}-kind`}
          label="What happens"
          choices={KINDS}
          {...form.register(`happenings.${index}.kind`)}
        />
      </div>
      {about?.string && (
        <div className="w-44">
          <PlainSelect
            id={`${at}-of`}
            label="Which panel string"
            choices={view.document.array.strings.map((item) => ({ value: item.id, label: item.name }))}
            {...form.register(`happenings.${index}.of`)}
          />
        </div>
      )}
      {about?.amount && field("amount", about.amount)}
      {field("from", "From")}
      {field("to", "To")}
      <label className="flex items-center gap-1.5 pb-1.5">
        <input type="checkbox" {...form.register(`happenings.${index}.everyDay`)} />
        every day
      </label>
      <button
        type="button"
        className="p-2 text-ink2 hover:text-stop"
        aria-label="Remove this event"
        onClick={remove}
      >
        <Trash2 size={14} />
      </button>
      <p id={`${at}-error`} role="alert" className="w-full text-[12px] text-stop">
        {errors?.from?.message ?? errors?.to?.message ?? errors?.amount?.message ?? errors?.kind?.message}
      </p>
    </li>
  );
}

/** What goes wrong, and what the operator does, from an hour to an hour. */
export function Happenings({ form }: Props) {
  const { view } = useDesk();
  const { fields, append, remove } = useFieldArray({ control: form.control, name: "happenings" });
  const add = (kind: Kind) => {
    const about = KINDS.find((item) => item.value === kind);
    const days = Number(form.getValues("days")) || 1;
    append({
      kind,
      from: hourWords(0),
      to: `day ${days}, 24:00`,
      everyDay: false,
      of: view.document.array.strings[0]?.id ?? "",
      amount: about?.usual ?? "",
    });
  };
  return (
    <div className="mb-3">
      <ul>
        {fields.map((field, index) => (
          <Row key={field.id} form={form} index={index} remove={() => remove(index)} />
        ))}
      </ul>
      <select
        aria-label="Add a failure or an action"
        className="field mt-1 w-72"
        value=""
        onChange={(event) => add(event.target.value as Kind)}
      >
        <option value="" disabled>
          Add a failure or an action…
        </option>
        {KINDS.map((item) => (
          <option key={item.value} value={item.value}>
            {item.label}
          </option>
        ))}
      </select>
    </div>
  );
}
