import { type KeyboardEvent, useState } from "react";
import { useSearchParams } from "react-router";
import { Cautions } from "../../kit/Cautions";
import { Failures } from "./Failures";
import { HowMuch } from "./HowMuch";
import { Ration } from "./Ration";
import { Rotation } from "./Rotation";
import { SetTheScene } from "./SetTheScene";
import { Trainer } from "./Trainer";
import { Years } from "./Years";

const PAGES = [
  { id: "outage", name: "Play an outage", page: <SetTheScene /> },
  { id: "years", name: "Weather years", page: <Years /> },
  { id: "practise", name: "Practise", page: <Trainer /> },
  {
    id: "last",
    name: "Make it last",
    page: (
      <>
        <Ration />
        <Rotation />
      </>
    ),
  },
  { id: "enough", name: "How much is enough", page: <HowMuch /> },
  { id: "lost", name: "If a part is lost", page: <Failures /> },
];

/** The questions a rehearsal answers, one at a time; what was played stays while another is looked at. */
export default function RehearseSheet() {
  const [params, setParams] = useSearchParams();
  const asked = params.get("page");
  const open = PAGES.some((page) => page.id === asked) && asked ? asked : "outage";
  const [seen, setSeen] = useState([open]);
  const choose = (id: string) => {
    setParams({ page: id }, { replace: true });
    setSeen((before) => (before.includes(id) ? before : [...before, id]));
  };
  const walk = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (!step) return;
    const index = PAGES.findIndex((page) => page.id === open);
    const next = PAGES[(index + step + PAGES.length) % PAGES.length];
    if (!next) return;
    choose(next.id);
    document.getElementById(`tab-${next.id}`)?.focus();
  };
  return (
    <>
      <Cautions step="rehearse" at="top" />
      <div
        role="tablist"
        aria-label="Rehearse"
        className="mb-4 flex flex-wrap gap-x-5 border-b border-hair"
        onKeyDown={walk}
      >
        {PAGES.map(({ id, name }) => (
          <button
            key={id}
            id={`tab-${id}`}
            type="button"
            role="tab"
            aria-selected={id === open}
            aria-controls={`page-${id}`}
            tabIndex={id === open ? 0 : -1}
            className={`-mb-px border-b-2 pt-1 pb-1.5 ${id === open ? "border-act font-[640] text-act" : "border-transparent text-ink2 hover:text-ink"}`}
            onClick={() => choose(id)}
          >
            {name}
          </button>
        ))}
      </div>
      {PAGES.map(({ id, page }) => (
        <div key={id} id={`page-${id}`} role="tabpanel" aria-labelledby={`tab-${id}`} hidden={id !== open}>
          {(seen.includes(id) || id === open) && page}
        </div>
      ))}
    </>
  );
}
