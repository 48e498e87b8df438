import { useId } from "react";
import type { Path } from "../api/edits";
import { useField } from "./context";
import { useDraft } from "./useDraft";
import { useHelp } from "./useHelp";

type Props<T> = {
  label: string;
  path: Path;
  placeholder: string;
  write: (rows: readonly T[]) => string;
  read: (text: string) => T[] | { error: string };
};

/** A short table typed on one line, its rows parted by commas. */
export function RowsField<T>({ label, path, placeholder, write, read }: Props<T>) {
  const id = useId();
  const field = useField<T[] | undefined>(path);
  const help = useHelp(path);
  const draft = useDraft(
    write(field.value ?? []),
    (text) => {
      const rows = read(text);
      if ("error" in rows) return rows.error;
      field.set(rows);
      return undefined;
    },
    { kept: field.unread, keep: field.keepUnread },
  );
  const error = draft.error ?? field.fault;
  return (
    <div className="min-w-0 sm:col-span-2">
      <label htmlFor={id} className="label mb-0.5 block">
        {label}
      </label>
      <input
        id={id}
        {...help}
        className="field"
        placeholder={placeholder}
        autoComplete="off"
        aria-invalid={error ? true : undefined}
        aria-describedby={error ? `${id}-error` : undefined}
        value={draft.text}
        onChange={(event) => {
          field.clearFault();
          draft.change(event.target.value);
        }}
        onBlur={draft.commit}
        onKeyDown={(event) => {
          if (event.key === "Enter") draft.commit();
          if (event.key === "Escape") draft.revert();
        }}
      />
      {error && (
        <p id={`${id}-error`} role="alert" className="text-[12px] text-stop">
          {error}
        </p>
      )}
    </div>
  );
}
