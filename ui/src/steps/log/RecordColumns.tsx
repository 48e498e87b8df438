import type { components } from "../../api/schema";
import { Wide } from "../../kit/layout";

export type Preview = components["schemas"]["MeterPreview"];

const TAKEN_FOR: [string, string][] = [
  ["", "left out"],
  ["time", "date and time"],
  ["date", "date"],
  ["clock", "time of day"],
  ["volts", "battery volts"],
  ["charge_a", "charging amps"],
  ["load_a", "load amps"],
  ["net_a", "net amps, + is charging"],
  ["charge_share", "state of charge"],
  ["box_c", "box temperature"],
];

type Props = { look: Preview; columns: string[]; onChange: (columns: string[]) => void };

/** What each column of a file is taken for, with its first rows beneath. */
export function RecordColumns({ look, columns, onChange }: Props) {
  return (
    <Wide label="Columns of the file">
      <table className="w-full">
        <thead>
          <tr>
            {look.columns.map((column, place) => (
              <th key={`${column.heading} ${place}`} scope="col" className="px-2 text-left font-normal">
                {column.heading || `column ${place + 1}`}
                <select
                  aria-label={`${column.heading || `column ${place + 1}`} is`}
                  className="field"
                  value={columns[place]}
                  onChange={(event) =>
                    onChange(columns.map((one, index) => (index === place ? event.target.value : one)))
                  }
                >
                  {TAKEN_FOR.map(([value, name]) => (
                    <option key={value} value={value}>
                      {name}
                    </option>
                  ))}
                </select>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {look.rows.map((row, number) => (
            <tr key={number} className="border-t border-hair2 text-[12px] text-ink2">
              {row.map((cell, place) => (
                <td key={place} className="px-2">
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </Wide>
  );
}

type DatesProps = { readings: string[]; value: string; onChange: (dates: string) => void };

/** Dates that can be read two ways: both are shown, and a person says which is right. */
export function DateOrder({ readings, value, onChange }: DatesProps) {
  return (
    <fieldset className="my-2">
      <legend>The first date can be read two ways. Which is right?</legend>
      {["day_first", "month_first"].map((order, place) => (
        <label key={order} className="mr-4 inline-flex min-h-6 items-center gap-1.5">
          <input
            type="radio"
            name="date order"
            className="accent-act"
            checked={value === order}
            onChange={() => onChange(order)}
          />
          {readings[place]}
        </label>
      ))}
    </fieldset>
  );
}
