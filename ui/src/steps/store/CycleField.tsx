import type { Path } from "../../api/edits";
import type { components } from "../../api/schema";
import { RowsField } from "../../kit/RowsField";

type Point = components["schemas"]["CyclePoint"];

function write(points: readonly Point[]): string {
  return points.map((point) => `${Math.round(point.depth * 100)} ${point.cycles}`).join(", ");
}

function read(text: string): Point[] | { error: string } {
  const points: Point[] = [];
  for (const part of text.split(",").filter((item) => item.trim() !== "")) {
    const [percent, cycles, ...rest] = part.trim().replaceAll("%", "").split(/\s+/).map(Number);
    if (percent === undefined || cycles === undefined || rest.length > 0 || Number.isNaN(percent + cycles)) {
      return {
        error: `“${part.trim()}” is not a depth and a number of cycles; type pairs, as 50 1500, 80 800`,
      };
    }
    points.push({ depth: percent / 100, cycles });
  }
  return points;
}

/** The part's own cycle table as pairs of depth and cycles. */
export function CycleField({ path }: { path: Path }) {
  return (
    <RowsField
      label="Cycle life from the data sheet: percent depth and cycles"
      path={path}
      placeholder="usual for the kind; 50 1500, 80 800"
      write={write}
      read={read}
    />
  );
}
