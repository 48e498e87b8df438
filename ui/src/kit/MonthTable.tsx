import type { ReactNode } from "react";
import { MONTH_LETTERS, MONTHS } from "./MonthStrip";

type Props = { rows: [string, ReactNode[]][]; hardMonth?: number; firstColumn?: string };

/** Rows of twelve figures under the months' letters. */
export function MonthTable({ rows, hardMonth, firstColumn = "w-12" }: Props) {
  return (
    <table className="w-full table-fixed text-[12px]">
      <thead>
        <tr>
          <th className={firstColumn} scope="col">
            <span className="sr-only">Row</span>
          </th>
          {MONTHS.map((month, index) => (
            <th
              key={month}
              scope="col"
              className={`font-normal ${index + 1 === hardMonth ? "font-[700]! text-ink" : "text-ink2"}`}
            >
              <abbr title={month} className="no-underline">
                {MONTH_LETTERS[index]}
              </abbr>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(([name, cells]) => (
          <tr key={name}>
            <th scope="row" className="text-left font-normal text-ink2">
              {name}
            </th>
            {cells.map((cell, index) => (
              <td key={index} className="text-center">
                {cell}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
