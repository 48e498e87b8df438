import { Cautions } from "../../kit/Cautions";
import { useDesk, useFigure } from "../../kit/context";
import { Disagreements } from "../../kit/Disagreements";
import { TextField } from "../../kit/fields";
import { BigFigure, Part } from "../../kit/layout";
import { Checklists } from "./Checklists";
import { PartsTable } from "./PartsTable";

const SIZES = [
  ["a4", "A4"],
  ["letter", "Letter"],
] as const;
const KINDS = [
  ["card", "Site card"],
  ["report", "Report"],
] as const;

function Papers() {
  const { view } = useDesk();
  return (
    <Part title="Papers" note="a card for the wall on one page, and a report with the figures’ workings">
      <div className="grid items-end gap-3 sm:grid-cols-2">
        <TextField label="Who to call" path={["build", "call"]} />
        <p className="flex flex-wrap gap-x-4 gap-y-1 pb-1">
          {KINDS.flatMap(([kind, title]) =>
            SIZES.map(([paper, name]) => (
              <a
                key={kind + paper}
                className="text-act hover:underline"
                href={`/api/designs/${view.id}/${kind}?paper=${paper}`}
                download
              >
                {title}, {name} (PDF)
              </a>
            )),
          )}
        </p>
      </div>
    </Part>
  );
}

export default function BuildSheet() {
  const { view } = useDesk();
  const figure = useFigure();
  const { build } = view.report;
  return (
    <>
      <p className="mb-3 text-[14px]">{build.takeaway}</p>
      <div className="mb-5 grid grid-cols-2 gap-4 sm:grid-cols-4">
        <BigFigure of={figure(build.to_buy)} label="to buy, of what has a price" />
        <BigFigure of={figure(build.weight_kg)} label="of what somebody knows the weight of" />
        <BigFigure of={figure(build.per_kwh)} label="a usable kilowatt-hour held" />
        <BigFigure of={figure(build.per_year)} label="a year of the bank’s life" />
      </div>
      <Cautions step="build" at="parts" />
      {build.reuse.length > 0 && (
        <Part title="From the shelf">
          <ul>
            {build.reuse.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        </Part>
      )}
      <PartsTable />
      <Papers />
      <Checklists />
      <Disagreements step="build" />
    </>
  );
}
