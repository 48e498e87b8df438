import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Trash2 } from "lucide-react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import { Mark } from "../../kit/Mark";
import { editsOf } from "../../kit/remedy";
import type { Reading } from "./useLog";

/** A reading: when, what was said, what it means, and what it would change. */
export function ReadingRow({ reading }: { reading: Reading }) {
  const { view, editor } = useDesk();
  const cache = useQueryClient();
  const again = () => void cache.invalidateQueries({ queryKey: ["log", view.site_id] });
  const remove = useMutation({
    mutationFn: () =>
      answer(client.DELETE("/api/readings/{reading_id}", { params: { path: { reading_id: reading.id } } })),
    onSuccess: again,
  });
  const { change } = reading;
  return (
    <li className="grid gap-x-4 border-b border-hair2 py-1.5 sm:grid-cols-[11rem_1fr_auto]">
      <span className="text-[12px] text-ink2">
        {new Date(reading.taken_at).toLocaleString()}
        {reading.who && `, ${reading.who}`}
      </span>
      <span>
        <b className="font-[640]">{reading.said}</b>
        {reading.words && (
          <span className="block">
            {reading.contradicts && (
              <span className="mr-1 inline-block align-middle">
                <Mark of="mind" />
              </span>
            )}
            {reading.words}
          </span>
        )}
        {change && (
          <button
            type="button"
            className="btn btn-sm btn-ghost text-act"
            onClick={() => editor.edit(...editsOf(change.patch))}
          >
            {change.label} in {view.document.name}
          </button>
        )}
      </span>
      <button
        type="button"
        className="p-1 text-ink2 hover:text-stop"
        aria-label={`Take out ${reading.said}`}
        title="Remove"
        onClick={() => remove.mutate()}
      >
        <Trash2 size={14} />
      </button>
    </li>
  );
}

/** What was read, newest first. */
export function Readings({ readings }: { readings: Reading[] }) {
  return (
    <Part title="Readings" note="newest first">
      <ul>
        {readings.map((reading) => (
          <ReadingRow key={reading.id} reading={reading} />
        ))}
      </ul>
    </Part>
  );
}
