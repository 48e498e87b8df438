import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useId, useState } from "react";
import { reasonOf } from "../../api/client";
import { useDesk } from "../../kit/context";
import { type Asked, type Checked, type Moment, type Point, tried } from "./useCheck";

type Props = {
  moment: Moment;
  /** Where; without one the line itself says it. */
  point?: Point | undefined;
  label: string;
  hint?: string | undefined;
  autoFocus?: boolean;
  onRead: (asked: Asked, checked: Checked) => void;
};

/** A reading as it is said, or a figure at a place that was chosen; what cannot be read stays and says why. */
export function ReadingEntry({ moment, point, label, hint, autoFocus, onRead }: Props) {
  const { view } = useDesk();
  const id = useId();
  const [text, setText] = useState("");
  const check = useMutation({
    mutationFn: async () => {
      const value = Number(text.trim().replace(",", "."));
      const figure = point !== undefined && text.trim() !== "" && Number.isFinite(value);
      const asked: Asked = figure
        ? { text: "", point: point.id, value, moment }
        : { text, point: "", value: null, moment };
      const checked = await tried(view.id, asked, moment);
      if (!checked) throw new Error("Nothing came back.");
      // Kept as it was understood: the same wherever one looks at it next.
      const kept = { text: "", point: checked.point.id, value: checked.value, moment: checked.moment };
      onRead(kept, checked);
    },
    onSuccess: () => setText(""),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    check.mutate();
  };
  return (
    <form onSubmit={submit}>
      <label htmlFor={id} className="label mb-0.5 block">
        {label}
      </label>
      <div className="flex gap-2">
        <input
          id={id}
          // biome-ignore lint/a11y/noAutofocus: somebody has just tapped the place he measures at
          autoFocus={autoFocus}
          className="field min-h-11 min-w-0 flex-1 text-[16px]"
          autoComplete="off"
          inputMode={point ? "decimal" : "text"}
          maxLength={160}
          value={text}
          aria-invalid={check.error ? true : undefined}
          aria-describedby={`${id}-help`}
          onChange={(event) => {
            check.reset();
            setText(event.target.value);
          }}
        />
        <button
          type="submit"
          className="btn btn-primary min-h-11"
          disabled={text.trim() === "" || check.isPending}
        >
          Check
        </button>
      </div>
      {check.error && (
        <p role="alert" className="mt-0.5 text-[12px] text-stop">
          {reasonOf(check.error)}
        </p>
      )}
      <p id={`${id}-help`} className="mt-0.5 text-[12px] text-ink2">
        {hint}
      </p>
    </form>
  );
}
