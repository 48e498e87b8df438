import { useNavigate } from "react-router";
import { useSites } from "../api/queries";
import { useAttention } from "../kit/attention";
import type { Desk } from "../kit/context";
import { reveal } from "../kit/Sections";
import { useSettings } from "../kit/settings";
import fields from "./findable.json";
import type { Command } from "./Overlays";
import { useOverlay } from "./overlay";
import { PLACES } from "./places";
import { STEPS } from "./steps";

const LOOKS = 200;
const LOOK_EVERY_MS = 50;

/** Put the reader into a field once its screen is there, opening what it is folded into. */
function focusField(label: string): void {
  let looks = 0;
  const timer = setInterval(() => {
    const labels = [...document.querySelectorAll<HTMLLabelElement>("main label")];
    const found = labels.find((item) => item.textContent?.trim() === label);
    const field = found?.control;
    looks += 1;
    if (!field) {
      if (looks > LOOKS) clearInterval(timer);
      return;
    }
    reveal(field);
    // Behind another tab it can take the focus only once that is drawn.
    if (field.checkVisibility?.() === false && looks <= LOOKS) return;
    clearInterval(timer);
    field.scrollIntoView({ block: "center" });
    field.focus();
    // What is typed next takes the place of what stands there.
    if (field instanceof HTMLInputElement) field.select();
  }, LOOK_EVERY_MS);
}

/** Everything the palette finds from a design: places, doings, sites, loads, findings, figures and fields. */
export function useCommands({ view, editor }: Desk): Command[] {
  const navigate = useNavigate();
  const { data: sites } = useSites();
  const { theme, setTheme } = useSettings();
  const attention = useAttention();
  const showKeys = useOverlay((overlay) => overlay.show);
  const other = theme === "daylight" ? "lamplight" : "daylight";
  const go = (step: string, more = "") => void navigate(`/designs/${view.id}/${step}${more}`);
  const named = (step: string) => STEPS.find((item) => item.id === step)?.name ?? "";
  return [
    ...STEPS.map((step) => ({ name: step.name, hint: `step ${step.key}`, run: () => go(step.id) })),
    ...PLACES.map(({ name, words, to }) => ({
      name,
      words,
      hint: named(to.split("?")[0] ?? ""),
      run: () => void navigate(to.startsWith("/") ? to : `/designs/${view.id}/${to}`),
    })),
    { name: "Undo", hint: "u", run: () => void editor.undo() },
    { name: "Redo", hint: "Shift+u", run: () => void editor.redo() },
    { name: "Findings", hint: "f", run: () => attention.show("findings") },
    { name: "Cautions", hint: "c", run: () => attention.show("cautions") },
    { name: "Keyboard shortcuts", words: "help keys", hint: "?", run: () => showKeys("keys") },
    { name: "Print this step", words: "print paper pdf", run: () => window.print() },
    { name: `Switch to ${other}`, words: "theme dark light", run: () => setTheme(other) },
    {
      name: "Download this design",
      words: "export save file",
      run: () => window.location.assign(`/api/designs/${view.id}/file`),
    },
    ...(sites ?? []).map((site) => ({
      name: site.name,
      hint: "site",
      run: () => void navigate(`/designs/${site.design_id}/overview`),
    })),
    ...view.document.draw.loads.map((load) => ({
      name: load.name,
      hint: "load",
      run: () => go("draw", `#${load.id}`),
    })),
    ...view.report.findings.map((finding) => ({
      name: finding.sentence,
      hint: `${finding.severity}, ${named(finding.step)}`,
      run: () => {
        attention.show("findings");
        go(finding.step);
      },
    })),
    ...fields.map((field) => ({
      name: field.label,
      hint: `field, ${named(field.step)}`,
      run: () => {
        go(field.step);
        focusField(field.label);
      },
    })),
    ...Object.values(view.report.working).map((figure) => ({
      name: figure.label,
      hint: "figure",
      run: () => attention.ask(figure.key),
    })),
  ];
}
