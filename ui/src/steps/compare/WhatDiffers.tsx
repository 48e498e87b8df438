import { useQueries } from "@tanstack/react-query";
import { answer, client, type DesignView } from "../../api/client";
import { placeOf } from "../../api/places";
import { namesOf } from "./names";
import { type Row, Table } from "./Table";

const SAME = 1e-6;
type Plain = string | number | boolean | null;

const plain = (value: Plain) =>
  value === null ? "not given" : value === true ? "yes" : value === false ? "no" : String(value);

/** Every field that is not the same in all of them. */
export function WhatDiffers({ views }: { views: DesignView[] }) {
  const [first, ...others] = views;
  const found = useQueries({
    queries: others.map((other) => ({
      queryKey: ["differences", first?.id, first?.revision, other.id, other.revision],
      queryFn: () =>
        answer(
          client.GET("/api/designs/{design_id}/differences", {
            params: { path: { design_id: other.id }, query: { from: first?.id ?? "" } },
          }),
        ),
    })),
  });
  if (found.some((one) => !one.data)) return <p className="text-ink2">Comparing…</p>;
  const rows = new Map<string, Row>();
  found.forEach(({ data }, index) => {
    for (const item of data ?? []) {
      const name = placeOf(item.place);
      const mine = plain(item.first);
      // Until a design is seen to differ, it is as the first.
      const row = rows.get(name) ?? { name, texts: views.map(() => mine) };
      const close =
        typeof item.first === "number" &&
        typeof item.second === "number" &&
        Math.abs(item.first - item.second) < SAME;
      row.texts[index + 1] = close ? mine : plain(item.second);
      rows.set(name, row);
    }
  });
  if (rows.size === 0) return <p>No differences: every field is the same.</p>;
  return <Table label="What differs" heads={namesOf(views)} rows={[...rows.values()]} />;
}
