import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";

/** Every part lost in turn, the worst first. */
export function Failures() {
  const { view } = useDesk();
  const { data } = useQuery({
    queryKey: ["failures", view.id, view.revision],
    placeholderData: (before) => before,
    queryFn: () =>
      answer(client.GET("/api/designs/{design_id}/failures", { params: { path: { design_id: view.id } } })),
  });
  const report = data?.report;
  if (!report || report.failures.length === 0) return null;
  const whole = (report.served_vital * 100).toFixed(1);
  return (
    <Part
      title="Single failures"
      note={`every part lost in turn, ${report.years} years each; whole, ${whole} % is served`}
    >
      <ul>
        {report.failures.map((failure) => (
          <li key={failure.part} className="grid gap-x-4 border-t border-hair2 py-1 sm:grid-cols-[14rem_1fr]">
            <span className="font-[640]">{failure.part}</span>
            <span>{failure.sentence}</span>
          </li>
        ))}
      </ul>
    </Part>
  );
}
