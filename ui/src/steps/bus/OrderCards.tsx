import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { useShown } from "../../kit/fields";
import { Part } from "../../kit/layout";

/** What is done in which order, with the readings to expect. */
function Cards() {
  const { view } = useDesk();
  const figure = useFigure();
  return (
    <div className="grid gap-x-8 gap-y-4 lg:grid-cols-2">
      {view.report.bus.cards.map((card) => (
        <section
          key={card.id}
          aria-label={card.title}
          className="break-inside-avoid border-l border-hair pl-3"
        >
          <h3 className="text-[13px] font-[640]">{card.title}</h3>
          <p className="text-[12px] text-stop">{card.caution}</p>
          <ol className="mt-1 list-decimal pl-5">
            {card.steps.map((step) => (
              <li key={step.text} className="py-0.5">
                {step.text}
                {step.expect && (
                  <>
                    {" "}
                    Expect <Figure of={figure(step.expect)} />.
                  </>
                )}
              </li>
            ))}
          </ol>
        </section>
      ))}
    </div>
  );
}

/** Which fuse is which, to print and stick on. */
function FuseMap() {
  const { view } = useDesk();
  const figure = useFigure();
  const show = useShown();
  return (
    <Part title="Fuse map" note="print and cut into labels">
      <ul className="grid grid-cols-2 gap-2 sm:grid-cols-4 lg:grid-cols-5">
        {view.report.bus.runs.map((run) => (
          <li key={run.id} className="border border-hair px-2 py-1 text-[12px]">
            <span className="block text-[14px] font-[640]">
              F{run.number} {run.fuse_kind === "none" ? "no fuse" : show(figure(run.fuse_a)?.value, "A")}
            </span>
            <span className="block truncate" title={run.name}>
              {run.name}
            </span>
            <span className="text-ink2">
              {show(run.mm2, "mm²")}, {show(run.length_m, "m")}
            </span>
          </li>
        ))}
      </ul>
    </Part>
  );
}

/** A word on radio noise by layout. */
function Noise() {
  const { view } = useDesk();
  const { advice } = view.report.bus;
  if (advice.length === 0) return null;
  return (
    <Part title="Radio noise" note="what can make noise here, and what helps">
      <ul className="grid gap-1.5">
        {advice.map((item) => (
          <li key={item.text}>
            <details>
              <summary className="cursor-pointer">{item.text}</summary>
              <p className="text-[12px] text-ink2">{item.why}</p>
            </details>
          </li>
        ))}
      </ul>
    </Part>
  );
}

export function OrderCards() {
  return (
    <>
      <FuseMap />
      <Part title="Connect and disconnect, in order">
        <Cards />
      </Part>
      <Noise />
    </>
  );
}
