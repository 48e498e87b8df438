import type { ReactNode } from "react";
import { Wide } from "../../kit/layout";

export type Row = { name: string; texts: string[] };
type Props = {
  label: string;
  heads: string[];
  rows: Row[];
  cell?: (row: Row, text: string, side: number) => ReactNode;
};

/** A row a thing, a column a design; what is as in the first stands back. */
export function Table({ label, heads, rows, cell = (_row, text) => text }: Props) {
  return (
    <Wide label={label}>
      <table aria-label={label} className="w-full">
        <thead>
          <tr className="border-b border-hair text-ink2">
            <td />
            {heads.map((head, index) => (
              <th key={`${head} ${index}`} scope="col" className="py-1 pr-3 text-left font-normal">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.name} className="border-b border-hair2">
              <th scope="row" className="w-1/3 py-1 pr-3 text-left font-normal">
                {row.name}
              </th>
              {row.texts.map((text, side) => (
                <td
                  key={side}
                  className={`pr-3 ${text === row.texts[0] ? (side === 0 ? "" : "text-ink2") : "font-[640]"}`}
                >
                  {cell(row, text, side)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {rows.some(({ texts }) => texts.some((text) => text !== texts[0])) && (
        <p className="mt-1 text-[12px] text-ink2">Bold: differs from {heads[0]}.</p>
      )}
    </Wide>
  );
}
