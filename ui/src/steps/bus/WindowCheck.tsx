import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { Part, Wide } from "../../kit/layout";
import { Mark } from "../../kit/Mark";
import { GRADES, type LoadAtBus } from "./run";

const LEVELS = ["full", "half charged", "lowest charge"] as const;

function Cell({ of, grade }: { of: string; grade: string | undefined }) {
  const figure = useFigure();
  const told = grade ? GRADES[grade] : undefined;
  return (
    <td className="px-1.5 py-1 text-right whitespace-nowrap">
      <Figure of={figure(of)} unit={false} digits={1} />
      {told && (
        <span className="ml-1 inline-block w-3 align-middle" title={told.word}>
          <Mark of={told.mark} />
          <span className="sr-only">{told.word}</span>
        </span>
      )}
    </td>
  );
}

function Row({ load, onWalk, walked }: { load: LoadAtBus; onWalk: () => void; walked: boolean }) {
  const figure = useFigure();
  const window = load.low_v === null ? "" : `${load.low_v.toFixed(1)} V up`;
  return (
    <tr className={`border-b border-hair2 ${walked ? "bg-actsoft" : ""}`}>
      <th scope="row" className="max-w-56 py-1 pr-2 text-left font-normal">
        <span className="hidden print:inline">{load.walk.length > 0 && load.name}</span>
        {load.walk.length > 0 ? (
          <button
            type="button"
            className="text-left text-act hover:underline"
            onClick={onWalk}
            aria-pressed={walked}
          >
            {load.name}
          </button>
        ) : (
          load.name
        )}
        {load.through && <span className="block text-[12px] text-ink2">through {load.through}</span>}
      </th>
      <td className="px-1.5 text-right whitespace-nowrap text-ink2">{window || "not given"}</td>
      {load.receive_v.map((key, level) => (
        <Cell key={key} of={key} grade={load.receive_grade?.[level]} />
      ))}
      {load.keyed_v.map((key, level) => (
        <Cell key={key} of={key} grade={load.keyed_grade?.[level]} />
      ))}
      <td className="px-1.5 text-right whitespace-nowrap">
        <Figure of={figure(load.cold_v)} unit={false} digits={1} /> /{" "}
        <Figure of={figure(load.warm_v)} unit={false} digits={1} />
      </td>
      <td className="px-1.5 text-right whitespace-nowrap">
        {load.most_full_w ? (
          <>
            <Figure of={figure(load.most_full_w)} unit={false} /> / <Figure of={figure(load.most_half_w)} />
          </>
        ) : (
          "–"
        )}
      </td>
    </tr>
  );
}

/** The volts that reach every load, against the window it wants. */
export function WindowCheck({ walked, onWalk }: { walked: string; onWalk: (load: string) => void }) {
  const { view } = useDesk();
  const { bus } = view.report;
  if (bus.loads.length === 0) return null;
  return (
    <Part title="Volts at each radio" note="click a radio to see its voltage drop step by step">
      <Wide label="Volts at each load">
        <table className="w-full">
          <thead>
            <tr className="text-[12px] text-ink2">
              <th scope="col" rowSpan={2} className="text-left font-normal">
                Load
              </th>
              <th scope="col" rowSpan={2} className="px-1.5 text-right font-normal">
                Needs
              </th>
              <th
                scope="colgroup"
                colSpan={3}
                className="border-b border-hair2 px-1.5 text-center font-normal"
              >
                V receiving
              </th>
              <th
                scope="colgroup"
                colSpan={3}
                className="border-b border-hair2 px-1.5 text-center font-normal"
              >
                V transmitting
              </th>
              <th scope="col" rowSpan={2} className="px-1.5 text-right font-normal">
                At lowest charge,
                <br />
                coldest / warmest
              </th>
              <th scope="col" rowSpan={2} className="px-1.5 text-right font-normal">
                Most power,
                <br />
                full / half
              </th>
            </tr>
            <tr className="border-b border-hair text-[12px] text-ink2">
              {[0, 1].map((side) =>
                LEVELS.map((level) => (
                  <th key={`${side}${level}`} scope="col" className="px-1.5 pr-5 text-right font-normal">
                    {level}
                  </th>
                )),
              )}
            </tr>
          </thead>
          <tbody>
            {bus.loads.map((load) => (
              <Row
                key={load.load_id}
                load={load}
                walked={load.load_id === walked}
                onWalk={() => onWalk(load.load_id)}
              />
            ))}
          </tbody>
        </table>
      </Wide>
      <p className="mt-1 text-[12px] text-ink2">
        {Object.values(GRADES).map(({ word, mark }) => (
          <span key={word} className="mr-4 inline-flex items-center gap-1">
            <Mark of={mark} /> {word}
          </span>
        ))}
      </p>
    </Part>
  );
}
