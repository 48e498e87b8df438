import { useStore } from "zustand";
import type { Collision } from "../api/editor";
import { valueAt } from "../api/edits";
import { useDesk } from "../kit/context";

function plain(value: unknown): string {
  const inner = typeof value === "object" && value !== null && "value" in value ? value.value : value;
  return typeof inner === "object" ? "something else" : String(inner);
}

function CollisionNotice({ collision }: { collision: Collision }) {
  const { editor } = useDesk();
  const { edit, theirs } = collision;
  const ours = edit.kind === "set" ? plain(edit.value) : "";
  return (
    <div role="alert" className="flex flex-wrap items-center gap-3 border-b border-hair bg-sheet px-4 py-2">
      <p>
        Another window set this to <b>{plain(valueAt(theirs, edit.path))}</b> while you typed <b>{ours}</b>.
      </p>
      <button type="button" className="btn btn-xs btn-primary" onClick={() => editor.settle(collision, true)}>
        Keep mine
      </button>
      <button type="button" className="btn btn-xs" onClick={() => editor.settle(collision, false)}>
        Keep theirs
      </button>
    </div>
  );
}

/** What needs an answer or was refused. */
export function Notices() {
  const { editor } = useDesk();
  const { save, collisions } = useStore(editor.state);
  return (
    <>
      {save.kind === "refused" && (
        <p role="alert" className="border-b border-hair bg-sheet px-4 py-2 text-stop">
          {save.message}
        </p>
      )}
      {collisions.map((collision, index) => (
        <CollisionNotice key={index} collision={collision} />
      ))}
    </>
  );
}
