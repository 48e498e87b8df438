import { Link } from "react-router";
import type { Finding } from "../../api/client";
import steps from "../../api/steps.json";
import { useAttention } from "../../kit/attention";
import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import { Mark, type Severity } from "../../kit/Mark";
import { headOf, toldTogether } from "../../kit/told";

const GRAVITY: Severity[] = ["stop", "fix", "mind"];
const MOST_JOBS = 5;

/** The gravest findings of all steps that nobody has accepted. */
function jobsOf(findings: readonly Finding[]): Finding[][] {
  return toldTogether(
    GRAVITY.flatMap((severity) =>
      findings.filter((finding) => finding.severity === severity && !finding.muted),
    ),
  );
}

/** A job in a line: what is found, and of which things where it is of several. */
function Job({ group }: { group: Finding[] }) {
  const showFindings = useAttention((attention) => attention.show);
  const [first] = group;
  if (!first) return null;
  return (
    <li className="border-b border-hair2 py-1.5">
      <Link
        to={`../${first.step}`}
        relative="path"
        className="flex items-baseline gap-2 hover:underline"
        onClick={() => showFindings("findings")}
      >
        <span className="relative top-px">
          <Mark of={first.severity} />
        </span>
        <span className="min-w-0 flex-1">
          {headOf(group)}
          {group.length > 1 && ` (${group.length})`}
        </span>
        <span className="shrink-0 text-[12px] text-act">
          {steps.find((step) => step.id === first.step)?.name}
        </span>
      </Link>
    </li>
  );
}

/** What is to be mended first, each on the way to its step. */
export function NextJobs() {
  const { view } = useDesk();
  const jobs = jobsOf(view.report.findings);
  const more = jobs.length - MOST_JOBS;
  return (
    <Part title="Next jobs" note={jobs.length === 0 ? "nothing found that needs work" : "gravest first"}>
      <ol>
        {jobs.slice(0, MOST_JOBS).map((group) => (
          <Job key={group[0]?.id} group={group} />
        ))}
      </ol>
      {more > 0 && <p className="mt-1 text-[12px] text-ink2">{more} more, in the steps they belong to.</p>}
    </Part>
  );
}
