import { useState } from "react";

const KEY = "yonderstat.firstVisit";
const STEPS = [
  [
    "Each row is a station",
    "You see in one sentence how well it does, then its twelve months, and how many days it lasts without sun. These stations are examples.",
  ],
  [
    "Click a name to open it",
    "A design has nine steps, from Brief to Log. Press 1 to 9 to go to a step. The verdict stays at the top and changes as you type.",
  ],
  [
    "See where a figure comes from",
    "Click a figure with a dotted line under it. You see how it is calculated, from which inputs, and from which source.",
  ],
  [
    "Read the findings",
    "Findings are marked Stop, Fix, Note or Good. We test each remedy before we offer it. Click it to change the design; press u to undo.",
  ],
  [
    "Create your own site",
    "Choose New site to get a complete station to start from. Figures in italics are our guesses. Replace them with your own.",
  ],
] as const;

/** Five short steps for somebody new, shown until they were read or skipped. */
export function FirstVisit() {
  const [at, setAt] = useState(() => (localStorage.getItem(KEY) === null ? 0 : STEPS.length));
  const step = STEPS[at];
  if (!step) return null;
  const go = (to: number) => {
    if (to >= STEPS.length) localStorage.setItem(KEY, "seen");
    setAt(to);
  };
  const last = at === STEPS.length - 1;
  return (
    <section aria-label="New here" className="my-3 rounded border border-hair bg-ground px-4 py-3">
      <p className="text-[12px] text-ink2">
        Short tour: {at + 1} of {STEPS.length}
      </p>
      <h2 className="text-[15px]">{step[0]}</h2>
      <p>{step[1]}</p>
      <p className="mt-2 flex gap-2">
        <button type="button" className="btn btn-sm" onClick={() => go(at + 1)}>
          {last ? "Done" : "Next"}
        </button>
        {!last && (
          <button type="button" className="btn btn-sm btn-ghost text-ink2" onClick={() => go(STEPS.length)}>
            Skip
          </button>
        )}
      </p>
    </section>
  );
}
