import type { Load } from "../../api/client";
import { useCatalogue } from "../../api/queries";

/** A new load: the plain one by key, or one of a kind with its usual figures. */
export function NewLoad({ onAdd }: { onAdd: (usual?: Load) => void }) {
  const { data: catalogue } = useCatalogue();
  return (
    <p className="mt-2 flex flex-wrap items-center gap-2">
      <button type="button" className="btn btn-sm btn-ghost text-act" onClick={() => onAdd()}>
        New load <kbd className="opacity-70">n</kbd>
      </button>
      <select
        aria-label="New load of a kind"
        className="field w-56"
        value=""
        onChange={(event) => {
          const kind = catalogue?.load_kinds.find((item) => item.kind === event.target.value);
          if (kind) onAdd(kind.load);
        }}
      >
        <option value="">or choose a kind…</option>
        {catalogue?.load_kinds.map((item) => (
          <option key={item.kind} value={item.kind}>
            {item.label}
          </option>
        ))}
      </select>
    </p>
  );
}
