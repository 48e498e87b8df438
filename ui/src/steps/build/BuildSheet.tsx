import { Cautions } from "../../kit/Cautions";
import { useDesk, useFigure } from "../../kit/context";
import { Disagreements } from "../../kit/Disagreements";
import { ChoiceField, TextField } from "../../kit/fields";
import { BigFigure, Part } from "../../kit/layout";
import { Sections } from "../../kit/Sections";
import { useInUnits, useUnits } from "../../kit/settings";
import { FromShelf } from "../shelf/FromShelf";
import { Balance } from "./Balance";
import { Checklists } from "./Checklists";
import { PartsTable } from "./PartsTable";

const STAGES = [
  { value: "", label: "not decided", hint: "" },
  { value: "now", label: "now", hint: "" },
  { value: "next", label: "next", hint: "" },
  { value: "later", label: "when money allows", hint: "" },
];
const SIZES = [
  ["a4", "A4"],
  ["letter", "Letter"],
] as const;
const KINDS = [
  ["Wall card", "card?"],
  ["Report", "report?"],
  ["Report with every formula", "report?formulas=yes&"],
  ["Parts list", "sheet?kind=parts&"],
  ["Cable and fuse schedule", "sheet?kind=schedule&"],
  ["Labels", "sheet?kind=labels&"],
] as const;
const FILES = [
  ["Parts as CSV", "parts.csv"],
  ["Parts as ODS", "parts.ods"],
  ["Loads as CSV", "loads.csv"],
  ["Loads as ODS", "loads.ods"],
  ["Report as JSON", "report.json"],
  ["Design file", "file"],
] as const;

function Papers() {
  const { view } = useDesk();
  const at = `/api/designs/${view.id}/`;
  const inUnits = useInUnits();
  const { length } = useUnits();
  return (
    <Part title="Printouts" note="for the wall, the committee and the builder">
      <div className="mb-2 grid gap-3 sm:grid-cols-2">
        <TextField label="Who to call (for the wall card)" path={["build", "call"]} />
        <ChoiceField label="When to build" path={["build", "stage"]} choices={STAGES} emptyIsNull />
      </div>
      <ul className="grid gap-x-6 sm:grid-cols-2">
        {KINDS.map(([title, way]) => (
          <li key={title} className="flex gap-3 py-0.5">
            <span className="min-w-0 flex-1">{title}, PDF</span>
            {SIZES.map(([paper, name]) => (
              <a
                key={paper}
                className="text-act hover:underline"
                aria-label={`${title}, ${name} (PDF)`}
                href={`${at}${way}paper=${paper}&${inUnits}`}
                download
              >
                {name}
              </a>
            ))}
          </li>
        ))}
      </ul>
      <p className="mt-2 flex flex-wrap gap-x-4 gap-y-1">
        {[...FILES, ["Diagram as SVG", `drawing?length=${length}`] as const].map(([title, way]) => (
          <a key={title} className="text-act hover:underline" href={`${at}${way}`} download>
            {title}
          </a>
        ))}
      </p>
    </Part>
  );
}

/** What all of it costs, from and to; what has a price alone where the currencies do not meet. */
function SumBand() {
  const { view } = useDesk();
  const figure = useFigure();
  const { build } = view.report;
  if (!build.sum_low || !build.sum_high) {
    return <BigFigure of={figure(build.to_buy)} label="to buy (parts with a price)" />;
  }
  const guessed = build.lines.some((line) => line.guess_low);
  return (
    <>
      <BigFigure
        of={figure(build.sum_low)}
        label={`to buy, at least, ${build.sum_currency}`}
        rough={guessed}
      />
      <BigFigure
        of={figure(build.sum_high)}
        rough={guessed}
        label={guessed ? `to buy, at most; our guesses of ${build.guess_year} prices` : "to buy, at most"}
      />
    </>
  );
}

export default function BuildSheet() {
  const { view } = useDesk();
  const figure = useFigure();
  const { build } = view.report;
  return (
    <Sections
      label="Build"
      sections={[
        {
          id: "parts",
          name: "Parts and costs",
          page: (
            <>
              <p className="mb-3 text-[14px]">{build.takeaway}</p>
              <div className="mb-5 grid grid-cols-2 gap-4 sm:grid-cols-5">
                <SumBand />
                <BigFigure of={figure(build.weight_kg)} label="weight (parts with a known weight)" />
                <BigFigure of={figure(build.per_kwh)} label="per usable kWh of battery" />
                <BigFigure of={figure(build.per_year)} label="per year of battery life" />
              </div>
              <Cautions step="build" at="parts" />
              <PartsTable />
            </>
          ),
        },
        { id: "stores", name: "From the club stores", page: <FromShelf /> },
        { id: "printouts", name: "Printouts", page: <Papers /> },
        { id: "checklists", name: "Checklists", page: <Checklists /> },
        { id: "trailer", name: "Trailer weight", page: <Balance /> },
        { id: "experts", name: "Experts disagree", page: <Disagreements step="build" /> },
      ]}
    />
  );
}
