import { useNavigate } from "react-router";
import { useSites } from "../api/queries";
import { useAttention } from "../kit/attention";
import type { Desk } from "../kit/context";
import { reveal } from "../kit/Sections";
import { useSettings } from "../kit/settings";
import fields from "./findable.json";
import type { Command } from "./Overlays";
import { useOverlay } from "./overlay";
import { STEPS, type StepId } from "./steps";

const LOOKS = 200;
const LOOK_EVERY_MS = 50;

/** Words people look for, and the step, page or part where that is done. */
const PLACES: { name: string; words: string; step: StepId; page?: string }[] = [
  { name: "Battery bank", words: "battery bank accumulator cells", step: "store" },
  {
    name: "Inverter, converters and supply lines",
    words: "inverter converter supply line ac 230 120",
    step: "draw",
  },
  { name: "Import loads from a table", words: "import csv spreadsheet loads", step: "draw" },
  { name: "Import hours from a contact log", words: "import log adif contacts", step: "draw" },
  { name: "Import a weather file", words: "import weather epw csv", step: "sun" },
  { name: "Skyline", words: "skyline horizon shade trees", step: "sun" },
  { name: "Charge controllers", words: "controller mppt pwm regulator", step: "array" },
  { name: "Strings from parts on hand", words: "shelf spare panels", step: "array" },
  { name: "Parts, printouts and checklists", words: "parts buy card report labels schedule", step: "build" },
  { name: "Mains charger and generator", words: "charger mains generator alternator", step: "array" },
  { name: "Run an outage", words: "outage scene rehearse", step: "rehearse", page: "outage" },
  { name: "Weather years", words: "years reliability", step: "rehearse", page: "years" },
  { name: "Train for an outage", words: "practise trainer", step: "rehearse", page: "practise" },
  { name: "Stretch the battery", words: "ration last", step: "rehearse", page: "last" },
  { name: "How big must it be?", words: "size sizing map enough", step: "rehearse", page: "enough" },
  { name: "If something breaks", words: "failure lost fault", step: "rehearse", page: "lost" },
];

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
    ...PLACES.map(({ name, words, step, page }) => ({
      name,
      words,
      hint: named(step),
      run: () => go(step, page ? `?page=${page}` : ""),
    })),
    {
      name: "Live",
      words: "live alarm forecast now monitor controller device modbus sunspec telemetry",
      hint: "live readings",
      run: () => go("live"),
    },
    {
      name: "Check a reading",
      words:
        "meter volts amps measure symptom fault diagnose shuts off weak signal never full dark fuse blows hot noise trouble",
      hint: "r",
      run: () => go("check"),
    },
    { name: "Undo", hint: "u", run: () => void editor.undo() },
    { name: "Redo", hint: "Shift+u", run: () => void editor.redo() },
    { name: "Findings", hint: "f", run: () => attention.show("findings") },
    { name: "Cautions", hint: "c", run: () => attention.show("cautions") },
    { name: "Keyboard shortcuts", words: "help keys", hint: "?", run: () => showKeys("keys") },
    { name: "Guide", words: "help how to manual glossary", run: () => void navigate("/guide") },
    { name: "Compare designs of this site", words: "compare a b beside", run: () => go("compare") },
    { name: "Print this step", words: "print paper pdf", run: () => window.print() },
    { name: `Switch to ${other}`, words: "theme dark light", run: () => setTheme(other) },
    {
      name: "Download this design",
      words: "export save file",
      run: () => window.location.assign(`/api/designs/${view.id}/file`),
    },
    {
      name: "Club stores",
      words: "shelf parts spare own lend outing",
      run: () => void navigate("/shelf"),
    },
    { name: "All sites", words: "home import open a design file new site", run: () => void navigate("/") },
    ...(sites ?? []).map((site) => ({
      name: site.name,
      hint: "site",
      run: () => void navigate(`/designs/${site.design_id}/draw`),
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
