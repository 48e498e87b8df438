import { ChevronDown, Trash2 } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { useDesk } from "../../kit/context";
import { NumberField, TextField } from "../../kit/fields";
import { PartDetails } from "./PartDetails";
import type { ShelfPart, ShelfView } from "./useShelf";

const plain = (value: number) => String(Number(value.toPrecision(6)));

/** What is free of it, and where the rest is. */
function Standing({ part, view }: { part: ShelfPart; view: ShelfView }) {
  const stock = view.stock.find((item) => item.part === part.id);
  const uses = view.uses.filter((use) => use.part === part.id);
  if (!stock) return null;
  const parts = [
    stock.reserved ? `${plain(stock.reserved)} reserved` : "",
    stock.away ? `${plain(stock.away)} away` : "",
    stock.over ? `${plain(stock.over)} missing` : "",
  ].filter(Boolean);
  return (
    <>
      <b className="font-[640]">{plain(stock.free)}</b>
      <span className="block text-[12px] text-ink2">{parts.join(", ")}</span>
      {uses.map((use) => (
        <Link
          key={`${use.design_id} ${use.line}`}
          to={`/designs/${use.design_id}/build`}
          className="block text-[12px] text-act hover:underline"
        >
          {use.site} {use.design}
          {use.differs && ": data changed since"}
        </Link>
      ))}
    </>
  );
}

/** A part of the shelf in a line, opened for its label. */
export function PartRow({ part, row, view }: { part: ShelfPart; row: number; view: ShelfView }) {
  const { editor } = useDesk();
  const [open, setOpen] = useState(false);
  const path = ["parts", { id: part.id }] as const;
  return (
    <>
      <tr
        data-row={row}
        className="border-b border-hair2 align-top max-md:mb-3 max-md:grid max-md:grid-cols-2 max-md:gap-x-3 max-md:pb-3"
      >
        <th scope="row" data-column={0} className="min-w-44 py-1 text-left font-normal max-md:col-span-2">
          <TextField label={`${part.name}: name`} path={[...path, "name"]} bare />
        </th>
        <td data-column={1} className="w-20 px-1">
          <NumberField
            label={`${part.name}: how many`}
            path={[...path, "count"]}
            dimension={part.kind === "cable" ? "length" : "count"}
            bare
          />
        </td>
        <td className="px-2 py-1 md:text-right">
          <Standing part={part} view={view} />
        </td>
        <td data-column={2} className="px-1">
          <TextField label={`${part.name}: condition`} path={[...path, "condition"]} bare />
        </td>
        <td data-column={3} className="px-1">
          <TextField label={`${part.name}: where it is kept`} path={[...path, "kept"]} bare />
        </td>
        <td data-column={4} className="px-1">
          <TextField label={`${part.name}: whose it is`} path={[...path, "owner"]} bare />
        </td>
        <td className="py-1 text-right whitespace-nowrap">
          <button
            type="button"
            className="p-1 text-ink2 hover:text-ink"
            aria-label={`More about ${part.name}`}
            aria-expanded={open}
            title="Label, price, weight, age"
            onClick={() => setOpen(!open)}
          >
            <ChevronDown size={14} className={open ? "rotate-180" : ""} />
          </button>
          <button
            type="button"
            className="p-1 text-ink2 hover:text-stop"
            aria-label={`Remove ${part.name} from the club stores`}
            title="Remove"
            onClick={() => editor.edit({ kind: "remove", path })}
          >
            <Trash2 size={14} />
          </button>
        </td>
      </tr>
      {open && (
        <tr className="max-md:block">
          <td colSpan={7} className="p-0 max-md:block">
            <PartDetails part={part} />
          </td>
        </tr>
      )}
    </>
  );
}
