import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import { percent } from "../../kit/MonthStrip";

/** Every part lost in turn, the worst first. */
export function Failures() {
  const { view } = useDesk();
  const { data, isPending } = useQuery({
    queryKey: ["failures", view.id, view.revision],
    placeholderData: (before) => before,
    queryFn: () =>
      answer(client.GET("/api/designs/{design_id}/failures", { params: { path: { design_id: view.id } } })),
  });
  const report = data?.report;
  if (isPending) return <p className="py-4 text-ink2">Testing what happens when each part fails…</p>;
  if (!report || report.failures.length === 0) {
    return (
      <p className="py-4">
        Nothing to test yet. Enter a location with sun data in Brief and a battery in Battery.
      </p>
    );
  }
  const whole =
    report.chance === null
      ? `vital loads have power ${percent(report.served_vital)} of the time`
      : `it gets through ${percent(report.chance)} of the time in the worst month`;
  return (
    <Part
      title="If something breaks"
      note={`one part fails at a time, over ${report.years} weather years; with nothing broken, ${whole}`}
    >
      <ul>
        {report.failures.map((failure) => (
          <li key={failure.part} className="grid gap-x-4 border-t border-hair2 py-1 sm:grid-cols-[18rem_1fr]">
            <span className="font-[640]">{failure.part}</span>
            <span>{failure.sentence}</span>
          </li>
        ))}
      </ul>
    </Part>
  );
}
