import { useCatalogue } from "../api/queries";
import type { components } from "../api/schema";
import { Part } from "./layout";

type Step = components["schemas"]["Disagreement"]["step"];

/** Where practitioners disagree on this step: the schools, what we take unless told, why, and where to choose. */
export function Disagreements({ step }: { step: Step }) {
  const { data: choices } = useCatalogue();
  const mine = choices?.disagreements.filter((item) => item.step === step) ?? [];
  if (mine.length === 0) return null;
  return (
    <Part title="Where experts disagree" note="what we use unless you choose otherwise">
      <ul>
        {mine.map((item) => (
          <li key={item.question} className="border-b border-hair2 py-2">
            <details>
              <summary className="cursor-pointer">
                {item.question} <span className="text-ink2">We use: {item.taken}.</span>
              </summary>
              <p className="mt-1 text-[12px] text-ink2">
                {item.why} {item.schools.length > 0 && `Opinions: ${item.schools.join("; ")}. `}
                You can change it in {item.where}.
              </p>
            </details>
          </li>
        ))}
      </ul>
    </Part>
  );
}
