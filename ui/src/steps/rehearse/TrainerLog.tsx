import type { components } from "../../api/schema";
import { useShown } from "../../kit/fields";

type Report = components["schemas"]["TrainerReport"];
type Named = { id: string; name: string };
type Props = {
  report: Report;
  evenings: components["schemas"]["Evening"][];
  tempos: Named[];
  keeps: { value: string; label: string }[];
};

/** What was decided and what came of it, day by day; at the end beside the best simple rule. */
export function TrainerLog({ report, evenings, tempos, keeps }: Props) {
  const show = useShown();
  if (report.told.length === 0) return null;
  return (
    <>
      <table className="w-full max-w-[46rem]">
        <thead>
          <tr className="text-[12px] text-ink2">
            {["Day", "Your decision", "From the sun", "Used", "Dark", "Left"].map((name, index) => (
              <th key={name} scope="col" className={`font-normal ${index < 2 ? "text-left" : "text-right"}`}>
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {report.told.map((day, index) => {
            const evening = evenings[index];
            const tempo = tempos.find((item) => item.id === evening?.tempo)?.name;
            const keep = keeps.find((item) => item.value === evening?.keep)?.label;
            return (
              <tr key={day.day} className="border-t border-hair2">
                <td className="py-0.5 pr-3">{day.day}</td>
                <td>
                  {tempo}, {keep}
                  {evening?.low_power_w ? `, ${evening.low_power_w} W` : ""}
                </td>
                <td className="text-right">{show(day.brought_ah, "A·h")}</td>
                <td className="text-right">{show(day.drawn_ah, "A·h")}</td>
                <td className={`text-right ${day.dark_hours ? "text-stop" : ""}`}>{day.dark_hours} h</td>
                <td className="text-right">{Math.round(day.left_share * 100)} %</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {report.mine && report.best && (
        <p className="mt-2">
          You: {report.mine.dark_hours} hours without power, {show(report.mine.served_ah, "A·h")} delivered.
          The best simple rule: {report.best.dark_hours} hours without power,{" "}
          {show(report.best.served_ah, "A·h")} delivered. The rule: {report.best.words}.
        </p>
      )}
    </>
  );
}
