import { useState } from "react";

const KEY = "yonderstat.firstVisit";
const STEPS = [
  [
    "Each strip is a station",
    "Its verdict in a sentence, twelve months, and the days it lasts without sun. The ones you see are made up.",
  ],
  [
    "Open one by its name",
    "Nine steps in the order people work, from Brief to Log; the keys 1 to 9 go there. The verdict stays on top and moves as you type.",
  ],
  [
    "Ask any figure why",
    "Press a figure with dots under it, or w: how it came about, from what, and from whom.",
  ],
  [
    "Read what is wrong",
    "Findings say Stop, Fix, Mind or Good. A remedy was tried before it is offered: press it, and u takes it back.",
  ],
  [
    "Start your own",
    "New site proposes a station that runs. What is in italics is our guess until you type your own figure over it.",
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
        New here: {at + 1} of {STEPS.length}
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
