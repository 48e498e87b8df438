import type { NextAction } from "../api/client";
import { useDesk } from "../kit/context";
import { editsOf } from "../kit/remedy";
import { useNextActions } from "./useNextActions";

/** One step that helps: what it costs, what it is, and what comes of it; a press takes it. */
function Step({ of: { change, cost, state }, trying }: { of: NextAction; trying: boolean }) {
  const { editor } = useDesk();
  return (
    <li className="min-w-0 flex-1 basis-[150px]">
      <button
        type="button"
        disabled={trying}
        className="flex h-full w-full flex-col items-start rounded border border-hair bg-sheet px-2 py-0.5 text-left text-[12px] leading-[1.3] enabled:hover:border-act disabled:border-dashed disabled:text-ink2"
        onClick={() => editor.edit(...editsOf(change.patch))}
      >
        <span className="text-[12px] text-ink2">{cost}</span>
        <span className="font-[640]">{change.label}</span>
        <span className={state === "good" && !trying ? "text-good" : "text-ink2"}>
          {trying ? "checking again…" : change.effect}
          {state === "good" && !trying && ": good"}
        </span>
      </button>
    </li>
  );
}

/** What to do next about a verdict that is not good, what is free first; nothing where it holds. */
export function NextActions({ className }: { className: string }) {
  const { view } = useDesk();
  const { steps, trying } = useNextActions(view);
  if (steps.length === 0) return null;
  return (
    <ul
      aria-label="What to do next"
      className={`no-print my-0.5 flex flex-wrap gap-2 max-lg:w-full lg:max-w-[40rem] lg:flex-[1.25] ${className}`}
    >
      {steps.map((step) => (
        <Step key={step.change.label} of={step} trying={trying} />
      ))}
    </ul>
  );
}
