import type { NextAction } from "../api/client";
import { useDesk } from "../kit/context";
import { editsOf } from "../kit/remedy";
import { useNextActions } from "./useNextActions";

/** One step that helps: what it costs, what it is, and what comes of it; a press takes it. */
function Step({ of: { change, cost, state }, trying }: { of: NextAction; trying: boolean }) {
  const { editor } = useDesk();
  return (
    <li className="min-w-0 max-lg:flex-1 max-lg:basis-[150px]">
      <button
        type="button"
        disabled={trying}
        title={`${change.label}: ${cost}, ${change.effect}`}
        className="flex h-full w-full flex-col items-start rounded border border-hair bg-sheet px-2 text-left text-[12px] leading-[1.15] enabled:hover:border-act disabled:border-dashed disabled:text-ink2"
        onClick={() => editor.edit(...editsOf(change.patch))}
      >
        <span className="w-full font-[640] lg:truncate">{change.label}</span>
        <span className="w-full text-ink2 lg:truncate">
          {cost}
          {" · "}
          <span className={state === "good" && !trying ? "text-good" : ""}>
            {trying ? "checking again…" : change.effect}
            {state === "good" && !trying && ": good"}
          </span>
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
      className={`no-print flex flex-wrap gap-2 max-lg:my-0.5 max-lg:w-full lg:w-[29rem] lg:shrink-0 lg:flex-col lg:flex-nowrap lg:gap-0.5 ${className}`}
    >
      {steps.map((step) => (
        <Step key={step.change.label} of={step} trying={trying} />
      ))}
    </ul>
  );
}
