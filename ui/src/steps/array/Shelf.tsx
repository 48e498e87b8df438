import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Trash2 } from "lucide-react";
import { Link } from "react-router";
import { answer, client } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";
import { ChoiceField, NumberField, TextField, useShown } from "../../kit/fields";
import { Part, Wide } from "../../kit/layout";
import { MONTHS } from "../../kit/MonthStrip";
import { shelfKey, useShelf } from "../shelf/useShelf";

type Fit = components["schemas"]["Fit"];
type Row = "shelf_modules" | "shelf_controllers";
function useFits() {
  const { view } = useDesk();
  return useQuery({
    queryKey: ["fits", view.id, view.revision],
    placeholderData: (before) => before,
    queryFn: () =>
      answer(
        client.GET("/api/designs/{design_id}/strings-that-fit", { params: { path: { design_id: view.id } } }),
      ),
  });
}

function Remove({ row, id, name }: { row: Row; id: string; name: string }) {
  const { editor } = useDesk();
  return (
    <button
      type="button"
      className="p-1 text-ink2 hover:text-stop"
      aria-label={`Remove ${name}`}
      onClick={() => editor.edit({ kind: "remove", path: ["array", row, { id }] })}
    >
      <Trash2 size={14} />
    </button>
  );
}

function ModuleRow({ id, name, number }: { id: string; name: string; number: number }) {
  const { data: choices } = useCatalogue();
  const path = ["array", "shelf_modules", { id }] as const;
  return (
    <li className="grid items-end gap-3 border-b border-hair py-2 sm:grid-cols-[1.4fr_0.6fr_1fr_1fr_1fr_auto]">
      <TextField label={`Panel ${number}`} path={[...path, "name"]} />
      <NumberField label="How many" path={[...path, "count"]} dimension="count" />
      <NumberField label="Watts" path={[...path, "module", "watts"]} dimension="watts" known />
      <NumberField label="Vmp" path={[...path, "module", "v_mp"]} dimension="volts" known optional />
      <ChoiceField
        label="Condition"
        path={[...path, "module", "condition"]}
        choices={choices?.conditions}
        hint=" "
      />
      <Remove row="shelf_modules" id={id} name={name} />
    </li>
  );
}

function ControllerRow({ id, name, number }: { id: string; name: string; number: number }) {
  const { data: choices } = useCatalogue();
  const path = ["array", "shelf_controllers", { id }] as const;
  const kinds = choices?.controllers.filter((choice) => choice.value !== "none");
  return (
    <li className="grid items-end gap-3 border-b border-hair py-2 sm:grid-cols-[1.4fr_0.8fr_1fr_1fr_1fr_auto]">
      <TextField label={`Controller ${number}`} path={[...path, "name"]} />
      <ChoiceField label="Kind" path={[...path, "kind"]} choices={kinds} hint=" " />
      <NumberField
        label="Panel volts, max"
        path={[...path, "regulator", "max_v"]}
        dimension="volts"
        known
        optional
      />
      <NumberField
        label="Charge current, max"
        path={[...path, "regulator", "max_charge_a"]}
        dimension="amps"
        known
        optional
      />
      <TextField label="Display" path={[...path, "regulator", "shows"]} />
      <Remove row="shelf_controllers" id={id} name={name} />
    </li>
  );
}

function FitRow({ fit }: { fit: Fit }) {
  const { view, editor } = useDesk();
  const show = useShown();
  const use = () => {
    // A string from the shelf takes the first one's place, on its plane.
    const others = view.document.array.strings.slice(1).filter((string) => string.joins == null);
    editor.edit({ kind: "set", path: ["array", "strings"], value: [...fit.strings, ...others] });
  };
  return (
    <tr className="border-t border-hair2">
      <th scope="row" className="py-1 pr-2 text-left font-normal">
        {fit.name}
        <span className="block text-[12px] text-ink2">
          {fit.controller}
          {fit.shows && `, display: ${fit.shows}`}
        </span>
      </th>
      <td className="px-2 text-right">{show(fit.watts, "W")}</td>
      <td className="px-2 text-right">{show(fit.cold_v, "V")}</td>
      <td className="px-2 text-right">{show(fit.best_a, "A")}</td>
      <td className="px-2 text-right font-[640]">{show(fit.hard_ah, "A·h")}</td>
      <td className="px-2 text-[12px]">
        {fit.trouble ? (
          <span className="text-stop">{fit.trouble}</span>
        ) : (
          <button type="button" className="btn btn-xs btn-ghost text-act" onClick={use}>
            Use this
          </button>
        )}
      </td>
    </tr>
  );
}

const OF_STRINGS = ["panel", "controller"];

/** What the club has free for strings. */
function ClubsOwn() {
  const { data } = useShelf();
  const free = data?.document.parts.flatMap((part) => {
    const left = data.stock.find((item) => item.part === part.id)?.free ?? 0;
    return OF_STRINGS.includes(part.kind) && left > 0 ? [`${left} × ${part.name}`] : [];
  });
  return (
    <p className="mb-2">
      {free?.length
        ? `Free in the club stores: ${free.join(", ")}. `
        : "No panel or controller is free in the club stores. "}
      <Link to="/shelf" className="text-act hover:underline">
        Open the club stores
      </Link>
    </p>
  );
}

/** What stands in this design's own file, from before there was one shelf for all: one press puts it on that. */
function InThisDesign() {
  const { view, editor } = useDesk();
  const cache = useQueryClient();
  const { shelf_modules, shelf_controllers } = view.document.array;
  const move = useMutation({
    mutationFn: async () => {
      const shelf = await answer(client.GET("/api/shelf"));
      const taken = new Set(shelf.document.parts.map((part) => part.id));
      const free = (id: string) => {
        let name = id;
        for (let number = 2; taken.has(name); number++) name = `${id}-${number}`;
        taken.add(name);
        return name;
      };
      const parts = [
        ...shelf_modules.map(({ id, name, count, module }) => ({
          id: free(id),
          name,
          kind: "panel",
          count,
          module,
        })),
        ...shelf_controllers.map(({ id, name, kind, regulator }) => ({
          id: free(id),
          name,
          kind: "controller",
          controller: kind,
          regulator,
        })),
      ];
      const body = parts.map((value) => ({ op: "add" as const, path: "/parts/-", value }));
      const header = { "If-Match": String(shelf.revision) };
      return answer(client.PATCH("/api/shelf", { params: { header }, body }));
    },
    onSuccess: (shelf) => {
      cache.setQueryData(shelfKey, shelf);
      editor.edit(
        { kind: "set", path: ["array", "shelf_modules"], value: [] },
        { kind: "set", path: ["array", "shelf_controllers"], value: [] },
      );
    },
  });
  if (shelf_modules.length + shelf_controllers.length === 0) return null;
  return (
    <>
      <ul>
        {shelf_modules.map((item, index) => (
          <ModuleRow key={item.id} id={item.id} name={item.name} number={index + 1} />
        ))}
        {shelf_controllers.map((item, index) => (
          <ControllerRow key={item.id} id={item.id} name={item.name} number={index + 1} />
        ))}
      </ul>
      <button
        type="button"
        className="btn btn-sm btn-ghost text-act"
        disabled={move.isPending}
        onClick={() => move.mutate()}
      >
        Move these to the club stores
      </button>
      {move.error && (
        <p role="alert" className="text-stop">
          {move.error.message}
        </p>
      )}
    </>
  );
}

/** Panels and controllers at hand, and every way to wire them. */
export function Shelf() {
  const { data } = useFits();
  return (
    <Part
      title="Panels and controllers on hand"
      note="and which strings they could make, mounted like the first string"
    >
      <ClubsOwn />
      <InThisDesign />
      {data && data.fits.length > 0 && (
        <Wide label="Strings from parts on hand">
          <table className="w-full min-w-[38rem]" aria-label="Strings that fit">
            <thead>
              <tr className="text-[12px] text-ink2">
                {[
                  "Strings",
                  "Label watts",
                  "Volts, coldest",
                  "Most amps",
                  `a day, ${MONTHS[data.month - 1]}`,
                  "",
                ].map((name) => (
                  <th
                    key={name}
                    scope="col"
                    className="px-2 text-right font-normal first:pl-0 first:text-left"
                  >
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {data.fits.map((fit) => (
                <FitRow key={`${fit.name} ${fit.controller}`} fit={fit} />
              ))}
            </tbody>
          </table>
        </Wide>
      )}
    </Part>
  );
}
