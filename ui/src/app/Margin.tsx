import { X } from "lucide-react";
import { useState } from "react";
import type { Change, Finding } from "../api/client";
import { type MarginTab, useAttention } from "../kit/attention";
import { useDesk } from "../kit/context";
import { Mark } from "../kit/Mark";
import { editsOf } from "../kit/remedy";
import { headOf, openOf, toldTogether } from "../kit/told";
import { OVERVIEW, type StepId } from "./steps";
import { IconButton } from "./TopBar";
import { useFindings } from "./useFindings";
import { WorkingPanel } from "./WorkingPanel";

const REMEDY =
  "mt-1.5 flex w-full flex-wrap items-baseline justify-between gap-x-2 rounded border border-hair px-2 py-1 text-left";

/** A change that was tried, to be made at a press; while it is tried anew it can only be read. */
function Remedy({ remedy, trying }: { remedy: Change; trying: boolean }) {
  const { editor } = useDesk();
  if (trying)
    return (
      <p className={`${REMEDY} border-dashed text-ink2`}>
        {remedy.label} <span>checking again…</span>
      </p>
    );
  return (
    <button
      type="button"
      className={`${REMEDY} bg-sheet hover:border-act`}
      onClick={() => editor.edit(...editsOf(remedy.patch))}
    >
      <span>{remedy.label}</span>
      <span className="font-[640] text-act">{remedy.effect}</span>
    </button>
  );
}

/** Living with a finding: why, kept in the design. A Stop stays said. */
function Mute({ finding }: { finding: Finding }) {
  const { view, editor } = useDesk();
  const [asking, setAsking] = useState(false);
  const muted = view.document.muted ?? [];
  if (finding.muted) {
    const others = muted.filter((item) => item.finding !== finding.id);
    return (
      <p className="mt-1 text-[12px]">
        Accepted: {finding.muted}{" "}
        <button
          type="button"
          className="text-act underline"
          onClick={() => editor.edit({ kind: "set", path: ["muted"], value: others })}
        >
          Show it again
        </button>
      </p>
    );
  }
  if (finding.severity !== "fix" && finding.severity !== "mind") return null;
  if (!asking) {
    return (
      <button
        type="button"
        className="mt-1 text-[12px] text-ink2 underline"
        aria-label={`Accept this: ${finding.sentence}`}
        onClick={() => setAsking(true)}
      >
        Accept this
      </button>
    );
  }
  return (
    <input
      className="field mt-1"
      aria-label="Reason for accepting this"
      placeholder="Reason, then Enter"
      maxLength={200}
      // biome-ignore lint/a11y/noAutofocus: it opens because someone asked for it
      autoFocus
      onBlur={() => setAsking(false)}
      onKeyDown={(event) => {
        const reason = event.currentTarget.value.trim();
        if (event.key === "Escape") setAsking(false);
        if (event.key !== "Enter" || reason === "") return;
        editor.edit({ kind: "set", path: ["muted"], value: [...muted, { finding: finding.id, reason }] });
        setAsking(false);
      }}
    />
  );
}

type RowProps = { group: Finding[]; said: Set<string>; trying: boolean };

/** A finding, or one that several things share: what it is, why, and what can be done, each under its own. */
function FindingRow({ group, said, trying }: RowProps) {
  const [first] = group;
  if (!first) return null;
  const several = group.length > 1;
  const whys = [...new Set(group.map((finding) => finding.why))];
  const done = (finding: Finding) => {
    const fresh = finding.remedies.filter((remedy) => !said.has(JSON.stringify(remedy.patch)));
    for (const remedy of fresh) said.add(JSON.stringify(remedy.patch));
    return (
      <>
        {fresh.map((remedy) => (
          <Remedy key={remedy.label} remedy={remedy} trying={trying} />
        ))}
        <Mute finding={finding} />
      </>
    );
  };
  return (
    <li className="border-b border-hair py-3">
      <h3 className="flex items-baseline gap-2 text-[13px] font-[640] [font-stretch:88%]">
        <span className="relative top-px">
          <Mark of={first.severity} />
        </span>
        {headOf(group)}
      </h3>
      {several && (
        <ul className="mt-1 list-disc pl-5">
          {group.map((finding) => (
            <li key={finding.id} className="mb-1">
              {finding.sentence}
              <div>{done(finding)}</div>
            </li>
          ))}
        </ul>
      )}
      {whys.map((why) => (
        <p key={why} className="mt-0.5 text-[12px] text-ink2">
          {why}
        </p>
      ))}
      {!several && done(first)}
    </li>
  );
}

const GROUPS: [string, (finding: Finding) => boolean][] = [
  ["Stop: does not work or can hurt", (finding) => finding.severity === "stop"],
  ["Fix", (finding) => finding.severity === "fix" && !finding.muted],
  ["Good to know", (finding) => finding.severity === "mind" && !finding.muted],
  ["Good", (finding) => finding.severity === "good"],
  ["Accepted", (finding) => finding.muted !== ""],
];
const OPEN_AT_ONCE = 5;

type GroupsProps = { of: Finding[][]; said: Set<string>; trying: boolean; more?: boolean };

function Groups({ of, said, trying, more = false }: GroupsProps) {
  return GROUPS.map(([name, isIn]) => {
    const group = of.filter(([first]) => first && isIn(first));
    if (group.length === 0) return null;
    return (
      <section key={name} aria-label={more ? `More: ${name}` : name} className="mt-3">
        <h2 className="label border-b border-hair pb-1">{name}</h2>
        <ul aria-busy={trying}>
          {group.map((told) => (
            <FindingRow key={told[0]?.id} group={told} said={said} trying={trying} />
          ))}
        </ul>
      </section>
    );
  });
}

/** A step, or the overview, which speaks of all of them. */
export type At = StepId | typeof OVERVIEW.id;

/** What was found, the gravest first; five at a time, the rest at a press. */
function Findings({ step }: { step: At }) {
  const { view } = useDesk();
  const [all, setAll] = useState(step === OVERVIEW.id);
  const { findings, trying } = useFindings(view);
  const mine = all ? findings : findings.filter((finding) => finding.step === step);
  const ranked = toldTogether(GROUPS.flatMap(([, isIn]) => mine.filter(isIn)));
  const open = ranked
    .filter(([first]) => first && first.severity !== "good" && !first.muted)
    .slice(0, OPEN_AT_ONCE);
  const rest = ranked.filter((group) => !open.includes(group));
  const said = new Set<string>();
  return (
    <>
      <label className="mt-2 flex items-center gap-2 text-[12px]">
        <input type="checkbox" checked={all} onChange={(event) => setAll(event.target.checked)} />
        Findings of all steps ({toldTogether(findings).length})
      </label>
      <Groups of={open} said={said} trying={trying} />
      {rest.length > 0 && (
        <details className="mt-3" open={open.length === 0}>
          <summary className="cursor-pointer text-act">
            {open.length === 0 ? "What is good or accepted" : `${rest.length} more`}
          </summary>
          <Groups of={rest} said={said} trying={trying} more />
        </details>
      )}
      {mine.length === 0 && <p className="py-3 text-ink2">No findings for this step.</p>}
    </>
  );
}

function Cautions({ step }: { step: At }) {
  const { view } = useDesk();
  const mine = view.report.cautions.filter((caution) => step === OVERVIEW.id || caution.step === step);
  return (
    <ul>
      {mine.map((caution) => (
        <li key={caution.text} className="border-b border-hair py-3">
          <p className="font-[600]">{caution.text}</p>
          <details className="mt-1 text-[12px] text-ink2">
            <summary className="cursor-pointer">Why</summary>
            {caution.why}
          </details>
        </li>
      ))}
    </ul>
  );
}

const TABS: [MarginTab, string][] = [
  ["findings", "Findings"],
  ["working", "Calculation"],
  ["cautions", "Cautions"],
];

/** Whether the side panel is there: where it has nothing to say it stays away until somebody asks for it. */
export function useMarginShown(findings: readonly Finding[], step: At): boolean {
  const { tab, open, asked } = useAttention();
  return open && (asked || tab !== "findings" || findings.some((finding) => finding.step === step));
}

/** What is said about the step, how a figure came about, and what can hurt. */
export function Margin({ step }: { step: At }) {
  const { view } = useDesk();
  const { tab, show, close } = useAttention();
  if (!useMarginShown(view.report.findings, step)) return null;
  const count = openOf(view.report.findings.filter((finding) => finding.step === step));
  return (
    <aside
      aria-label="Side panel"
      className="no-print border-hair bg-ground px-4 lg:w-[300px] lg:shrink-0 lg:overflow-y-auto lg:border-l max-lg:fixed max-lg:inset-x-0 max-lg:bottom-[49px] max-lg:z-10 max-lg:max-h-[55vh] max-lg:overflow-y-auto max-lg:border-t max-lg:pb-3"
    >
      <div className="sticky top-0 z-10 flex items-center border-b border-hair bg-ground pt-2">
        <div role="tablist" aria-label="Side panel" className="flex flex-1 gap-4">
          {TABS.map(([id, name]) => (
            <button
              key={id}
              type="button"
              role="tab"
              id={`tab-${id}`}
              aria-selected={tab === id}
              aria-controls="margin-panel"
              className={`border-b-2 py-1.5 ${tab === id ? "border-act font-[640]" : "border-transparent text-ink2"}`}
              onClick={() => show(id)}
            >
              {name}
              {id === "findings" && count > 0 && ` ${count}`}
            </button>
          ))}
        </div>
        <IconButton label="Close the side panel (m)" onClick={close}>
          <X size={15} />
        </IconButton>
      </div>
      <div id="margin-panel" role="tabpanel" aria-labelledby={`tab-${tab}`}>
        {tab === "findings" && <Findings key={step} step={step} />}
        {tab === "working" && <WorkingPanel />}
        {tab === "cautions" && <Cautions step={step} />}
      </div>
    </aside>
  );
}
