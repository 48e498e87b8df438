import type { components } from "../api/schema";
import { useDesk } from "./context";

type Step = components["schemas"]["Caution"]["step"];

/** The cautions that stand by a part of a step's screen: one or two lines where the hand is, with the reason behind. */
export function Cautions({ step, at }: { step: Step; at: string }) {
  const { view } = useDesk();
  const mine = view.report.cautions.filter((caution) => caution.step === step && caution.at === at);
  if (mine.length === 0) return null;
  return (
    <ul className="mb-3 grid gap-1 border-l-2 border-stop pl-3" aria-label="Cautions">
      {mine.map((caution) => (
        <li key={caution.text}>
          <details>
            <summary className="cursor-pointer">{caution.text}</summary>
            <p className="text-[12px] text-ink2">{caution.why}</p>
          </details>
        </li>
      ))}
    </ul>
  );
}
