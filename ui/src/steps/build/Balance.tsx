import { Trash2 } from "lucide-react";
import { useCatalogue } from "../../api/queries";
import { useDesk, useFigure } from "../../kit/context";
import { NumberField, TextField } from "../../kit/fields";
import { BigFigure, Part } from "../../kit/layout";
import { rowPath } from "./rows";

const HEAVY = ["Battery", "Panels"];
const HEADS = ["What", "Weight", "Ahead of the axle"];

function Trailer() {
  const path = ["build", "haul"];
  return (
    <div className="mb-3 grid gap-3 sm:grid-cols-3">
      <NumberField label="Distance axle to hitch" path={[...path, "hitch_m"]} dimension="length" known />
      <NumberField label="Trailer weight, empty" path={[...path, "empty_kg"]} dimension="weight" known />
      <NumberField
        label="Weight on the hitch, empty"
        path={[...path, "empty_nose_kg"]}
        dimension="weight"
        known
      />
      <NumberField
        label="Most the hitch and car allow"
        path={[...path, "nose_limit_kg"]}
        dimension="weight"
        known
        optional
      />
      <NumberField
        label="Most the trailer may weigh, loaded"
        path={[...path, "gross_limit_kg"]}
        dimension="weight"
        known
        optional
      />
    </div>
  );
}

function PlacedParts() {
  const { view } = useDesk();
  const lines = view.report.build.lines.filter((line) => HEAVY.includes(line.group) && line.unit === "×");
  return lines.map((line) => (
    <tr key={line.id} className="border-b border-hair2">
      <th scope="row" className="py-1 text-left font-normal">
        {line.name}
      </th>
      <td className="w-20 px-2 sm:w-32">
        <NumberField
          label={`${line.name}: what one weighs`}
          path={[...rowPath(line.id), "weight_kg"]}
          dimension="weight"
          known
          optional
          fallback={line.weight_from_design}
          bare
        />
      </td>
      <td className="w-20 px-2 sm:w-32">
        <NumberField
          label={`${line.name}: ahead of the axle`}
          path={[...rowPath(line.id), "ahead_m"]}
          dimension="length"
          optional
          bare
        />
      </td>
      <td className="w-8" />
    </tr>
  ));
}

function CargoRows() {
  const { view, editor } = useDesk();
  return view.document.build.haul?.cargo.map((cargo) => {
    const path = ["build", "haul", "cargo", { id: cargo.id }] as const;
    return (
      <tr key={cargo.id} className="border-b border-hair2">
        <th scope="row" className="py-1 font-normal">
          <TextField label={`${cargo.name}: what it is`} path={[...path, "name"]} bare />
        </th>
        <td className="px-2">
          <NumberField label={`${cargo.name}: weight`} path={[...path, "kg"]} dimension="weight" known bare />
        </td>
        <td className="px-2">
          <NumberField
            label={`${cargo.name}: ahead of the axle`}
            path={[...path, "ahead_m"]}
            dimension="length"
            bare
          />
        </td>
        <td>
          <button
            type="button"
            className="p-1 text-ink2 hover:text-stop"
            aria-label={`Remove ${cargo.name}`}
            onClick={() => editor.edit({ kind: "remove", path })}
          >
            <Trash2 size={14} />
          </button>
        </td>
      </tr>
    );
  });
}

function Offer() {
  const { editor } = useDesk();
  const { data: catalogue } = useCatalogue();
  return (
    <Part title="Weight and balance">
      <button
        type="button"
        className="btn btn-sm btn-ghost text-act"
        disabled={!catalogue}
        onClick={() => editor.edit({ kind: "set", path: ["build", "haul"], value: catalogue?.firsts.haul })}
      >
        Check trailer weight and balance
      </button>
    </Part>
  );
}

/** Weight on the hitch by moments, where it all stands in a trailer. */
export function Balance() {
  const { view, editor } = useDesk();
  const { data: catalogue } = useCatalogue();
  const figure = useFigure();
  const { balance } = view.report.build;
  const { haul } = view.document.build;
  if (!haul || !balance) return ["trailer", "vehicle"].includes(view.document.brief.kind) ? <Offer /> : null;
  const add = () => {
    const taken = new Set(haul.cargo.map((cargo) => cargo.id));
    let number = 1;
    while (taken.has(`cargo-${number}`)) number++;
    const value = { ...catalogue?.firsts.cargo, id: `cargo-${number}`, name: `Load ${number}` };
    editor.edit({ kind: "insert", path: ["build", "haul", "cargo"], value });
  };
  return (
    <Part title="Weight and balance" note={balance.takeaway}>
      <div className="mb-3 grid grid-cols-3 gap-4">
        <BigFigure of={figure(balance.nose_kg)} label="weight on the hitch" />
        <BigFigure of={figure(balance.gross_kg)} label="total weight, loaded" />
        <BigFigure of={figure(balance.nose_share)} label="of the whole weight is on the hitch" />
      </div>
      <Trailer />
      <table className="w-full" aria-label="Weights and positions">
        <thead>
          <tr className="border-b border-hair text-[12px] text-ink2">
            {HEADS.map((head, place) => (
              <th
                key={head}
                scope="col"
                className={`font-normal ${place === 0 ? "text-left" : "px-2 text-right"}`}
              >
                {head}
              </th>
            ))}
            <td />
          </tr>
        </thead>
        <tbody>
          <PlacedParts />
          <CargoRows />
        </tbody>
      </table>
      <p className="mt-2 flex gap-2">
        <button type="button" className="btn btn-sm btn-ghost text-act" disabled={!catalogue} onClick={add}>
          Add other cargo
        </button>
        <button
          type="button"
          className="btn btn-sm btn-ghost text-ink2"
          onClick={() => editor.edit({ kind: "set", path: ["build", "haul"], value: null })}
        >
          Remove trailer check
        </button>
      </p>
      <p className="text-[12px] text-ink2">
        Overloading a hitch or axle can cost you control of the trailer: weigh it before you drive. The
        documents of the trailer and car have the last word. Type positions behind the axle as negative
        numbers.
      </p>
    </Part>
  );
}
