import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { Part } from "../../kit/layout";

/** Which load takes what, largest first, with the sentence that matters above. */
export function ShareBars() {
  const { view } = useDesk();
  const figure = useFigure();
  const names = new Map(view.document.draw.loads.map((load) => [load.id, load.name]));
  const rows = view.report.draw.loads
    .filter((row) => names.has(row.id))
    .toSorted((a, b) => b.share - a.share);
  if (rows.length === 0) return null;
  return (
    <Part title="Where it goes" note={view.report.draw.share_takeaway}>
      <ul className="grid gap-1">
        {rows.map((row) => (
          <li key={row.id} className="grid grid-cols-[minmax(6rem,14rem)_1fr_9rem] items-center gap-3">
            <span className="truncate" title={names.get(row.id)}>
              {names.get(row.id)}
            </span>
            <span className="block h-3 bg-hair2" aria-hidden="true">
              <span className="block h-3 bg-draw/65" style={{ width: `${row.share * 100}%` }} />
            </span>
            <span className="text-right">
              <Figure of={figure(row.mean_a)} /> <span className="text-ink2">·</span>{" "}
              <Figure of={figure(row.daily_wh)} />
            </span>
          </li>
        ))}
      </ul>
    </Part>
  );
}
