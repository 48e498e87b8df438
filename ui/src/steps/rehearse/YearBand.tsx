import { useEffect, useRef, useState } from "react";
import type { components } from "../../api/schema";
import { Part, Wide } from "../../kit/layout";
import { MONTHS } from "../../kit/MonthStrip";
import { MonthTable } from "../../kit/MonthTable";
import { useSettings } from "../../kit/settings";

type Report = components["schemas"]["YearsReport"];
type Band = Report["bands"][number];
const HOURS = 24;
const DAYS_IN_MONTH = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

/** The token's colour as the canvas wants it. */
function colour(name: string): string {
  return getComputedStyle(document.documentElement).getPropertyValue(name).trim();
}

function paint(canvas: HTMLCanvasElement, band: Band) {
  const pen = canvas.getContext("2d");
  if (!pen) return;
  pen.fillStyle = colour("--color-base-100");
  pen.fillRect(0, 0, canvas.width, canvas.height);
  for (const [day, hours] of band.percent.entries()) {
    for (const [hour, percent] of hours.entries()) {
      pen.globalAlpha = percent <= 0 ? 1 : 0.06 + 0.84 * (1 - percent / 100);
      pen.fillStyle = percent <= 0 ? colour("--y-stop") : colour("--y-store");
      pen.fillRect(day, hour, 1, 1);
    }
  }
  pen.globalAlpha = 1;
}

/** Lowest of each month, for reading and copying. */
function lowest(band: Band): number[] {
  let from = 0;
  return DAYS_IN_MONTH.map((days) => {
    const part = band.percent.slice(from, from + days).flat();
    from += days;
    return Math.min(...part);
  });
}

/** State of charge through a year, days across and hours down; emptier is darker, red is cut off. */
export function YearBand({ report }: { report: Report }) {
  const [name, setName] = useState<Band["name"]>("worst");
  const theme = useSettings((settings) => settings.theme);
  const canvas = useRef<HTMLCanvasElement>(null);
  const band = report.bands.find((item) => item.name === name);
  // The theme is not read in the effect: its colours are, from the page.
  useEffect(() => {
    if (canvas.current && band) paint(canvas.current, band);
  }, [band, theme]);
  if (!band) return null;
  return (
    <Part title="The year, hour by hour" note={report.band_sentence}>
      <fieldset className="mb-2 flex gap-4">
        <legend className="sr-only">Which year</legend>
        {report.bands.map((item) => (
          <label key={item.name} className="flex items-center gap-1.5">
            <input
              type="radio"
              name="year-band"
              checked={item.name === name}
              onChange={() => setName(item.name)}
            />
            {item.name} year
          </label>
        ))}
        <span className="text-ink2">Darker means emptier; red is cut off.</span>
      </fieldset>
      <Wide picture label="State of charge, day by hour">
        <div className="min-w-[38rem]">
          <div className="grid grid-cols-[4.5rem_1fr]">
            <p
              className="flex flex-col justify-between text-right pr-2 text-[11px] text-ink2"
              aria-hidden="true"
            >
              <span>midnight</span>
              <span>noon</span>
              <span>midnight</span>
            </p>
            <canvas
              ref={canvas}
              width={band.percent.length}
              height={HOURS}
              role="img"
              aria-label={`State of charge in the ${name} year, day by hour. ${report.band_sentence} The table below shows the lowest charge of each month.`}
              className="h-36 w-full border border-hair"
              style={{ imageRendering: "pixelated" }}
            />
          </div>
          <MonthTable
            firstColumn="w-[4.5rem]"
            rows={[
              [
                "Lowest charge, %",
                lowest(band).map((value, index) => <span key={MONTHS[index]}>{value}</span>),
              ],
            ]}
          />
        </div>
      </Wide>
    </Part>
  );
}
