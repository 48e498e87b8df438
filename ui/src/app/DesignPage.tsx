import { Suspense, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { Refusal } from "../api/client";
import { useDesign } from "../api/queries";
import { useAttention } from "../kit/attention";
import { type Desk, DeskContext } from "../kit/context";
import { HelpLine } from "../kit/HelpLine";
import { DesignTabs } from "./DesignTabs";
import { EnergyLine } from "./EnergyLine";
import { InTrouble } from "./InTrouble";
import { type At, Margin, useMarginShown } from "./Margin";
import { Notices } from "./Notices";
import { NotThere } from "./NotThere";
import { Overlays } from "./Overlays";
import { Rundown } from "./Rundown";
import { SaveLine } from "./SaveLine";
import { CHECK, OVERVIEW, PAGES, type PageId, STEPS, type StepId } from "./steps";
import { TopBar } from "./TopBar";
import { useArrival } from "./useArrival";
import { useCommands } from "./useCommands";
import { useDesignEditor } from "./useDesignEditor";
import { useCommonKeys, useKey } from "./useKeys";
import { VerdictLine } from "./VerdictLine";

function useDesignKeys({ view, editor }: Desk, step: At) {
  const navigate = useNavigate();
  const attention = useAttention();
  const isMarginShown = useMarginShown(view.report.findings, step);
  useCommonKeys();
  useKey(
    STEPS.map((step) => step.key).join(","),
    (event) => {
      const step = STEPS.find((item) => item.key === event.key);
      if (step) navigate(`/designs/${view.id}/${step.id}`);
    },
    [view.id],
  );
  useKey("w", () => {
    const focused = document.activeElement?.closest<HTMLElement>("[data-figure]")?.dataset.figure;
    const key = focused ?? attention.trail.at(-1) ?? view.report.verdict.figure;
    if (key) attention.ask(key);
  }, [attention.trail, view.report]);
  useKey("0", () => void navigate(`/designs/${view.id}/overview`), [view.id]);
  useKey("r", () => void navigate(`/designs/${view.id}/check`), [view.id]);
  useKey("f", () => attention.show("findings"));
  useKey("c", () => attention.show("cautions"));
  useKey("m", () => (isMarginShown ? attention.close() : attention.show(attention.tab)), [
    isMarginShown,
    attention.tab,
  ]);
  useKey("u", () => void editor.undo(), [editor]);
  useKey("shift+u", () => void editor.redo(), [editor]);
}

function Frame({ desk, step }: { desk: Desk; step: StepId | PageId }) {
  const { view, editor } = desk;
  const commands = useCommands(desk);
  const page = PAGES.find((item) => item.id === step);
  const said = page && page !== OVERVIEW ? "log" : (step as At);
  useDesignKeys(desk, said);
  const entry = page ?? STEPS.find((item) => item.id === step);
  const Screen = entry?.screen;
  // Somebody stands there with a meter: all the room is for that.
  const isBare = step === CHECK.id;
  const sheet = useRef<HTMLElement>(null);
  const [isDown, setDown] = useState(false);
  /** Down a long sheet the verdict makes room; the two bounds lie apart so that it does not flicker. */
  const onScroll = () => {
    const { scrollTop = 0, scrollHeight = 0, clientHeight = 0 } = sheet.current ?? {};
    setDown(isDown ? scrollTop > 8 : scrollTop > 90 && scrollHeight - clientHeight > 300);
  };
  useArrival(sheet, step, `${entry?.name}, ${view.site_name} ${view.document.name} – Yonderstat`);
  return (
    <DeskContext.Provider value={desk}>
      <div className="flex h-full flex-col overflow-hidden print:block print:h-auto print:overflow-visible">
        <a href="#sheet" className="sr-only focus:not-sr-only focus:p-2">
          Skip to the main content
        </a>
        <TopBar
          undo={{ can: view.can_undo, run: () => void editor.undo() }}
          redo={{ can: view.can_redo, run: () => void editor.redo() }}
        >
          <DesignTabs />
          <span className="flex-1" />
          <SaveLine />
        </TopBar>
        <Notices />
        {!isBare && <VerdictLine short={isDown} />}
        {!isBare && <EnergyLine />}
        <div className="flex min-h-0 flex-1 print:block">
          <Rundown />
          <main
            ref={sheet}
            onScroll={onScroll}
            id="sheet"
            tabIndex={-1}
            aria-label={entry?.name}
            className="relative min-w-0 flex-1 overflow-y-auto bg-sheet px-4 py-3 outline-none max-md:scroll-pb-24 max-md:pb-24 sm:px-5 print:overflow-visible"
          >
            <p className="hidden text-[12px] print:block">
              {view.site_name}, {view.document.name}: {entry?.name}
            </p>
            <Suspense fallback={<p className="py-6 text-ink2">Opening…</p>}>{Screen && <Screen />}</Suspense>
            <HelpLine />
          </main>
          {!isBare && <Margin step={said} />}
        </div>
      </div>
      <Overlays commands={commands} />
    </DeskContext.Provider>
  );
}

/** One design at one step. */
export function DesignPage() {
  const { designId = "", step } = useParams();
  const { data: view, error } = useDesign(designId);
  const editor = useDesignEditor(designId);
  const known = [...STEPS, ...PAGES].find((item) => item.id === step);
  if (!known) return <NotThere what="This step does not exist." />;
  if (error instanceof Refusal && error.problem.current_revision) {
    return (
      <InTrouble designId={designId} problem={error.problem} revision={error.problem.current_revision} />
    );
  }
  if (error instanceof Refusal && error.problem.status === 404) {
    return <NotThere what="This design does not exist. It may have been removed." />;
  }
  if (error instanceof Refusal) return <NotThere what={error.problem.title} why={error.problem.detail} />;
  if (error) return <NotThere what="The server cannot be reached." />;
  if (!view) return <p className="p-8 text-ink2">Opening the design…</p>;
  return <Frame desk={{ view, editor }} step={known.id} />;
}
