import type { Load } from "../../api/client";
import { RowsField } from "../../kit/RowsField";
import { useUnits } from "../../kit/settings";
import { readQuantity } from "../../kit/units";

type Point = Load["power_table"][number];

/** The set's own power and current, as “10 W 5 A, 50 W 12 A”; empty uses the curve. */
export function PowerTable({ load }: { load: Load }) {
  const units = useUnits();
  const read = (text: string): Point[] | { error: string } => {
    const points: Point[] = [];
    for (const part of text.split(",").filter((item) => item.trim() !== "")) {
      const [watts, amps] = part.trim().split(/(?<=[wW])\s*/);
      const power = readQuantity(watts ?? "", "watts", units);
      const current = readQuantity(amps ?? "", "amps", units);
      if (!("value" in power && "value" in current)) {
        return { error: "type pairs of watts and amps, such as 10 W 5 A, 50 W 12 A" };
      }
      points.push({ watts: power.value, amps: current.value });
    }
    return points;
  };
  return (
    <RowsField
      label="Current at each power"
      path={["draw", "loads", { id: load.id }, "power_table"]}
      placeholder="10 W 5 A, 50 W 12 A"
      write={(points: readonly Point[]) =>
        points.map((point) => `${point.watts} W ${point.amps} A`).join(", ")
      }
      read={read}
    />
  );
}
