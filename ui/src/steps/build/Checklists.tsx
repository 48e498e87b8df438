import { useState } from "react";
import type { components } from "../../api/schema";
import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { Part } from "../../kit/layout";

type List = components["schemas"]["Checklist"];
const INITIALS = "yonderstat.initials";

function Item({ item, initials }: { item: List["items"][number]; initials: string }) {
  const { view, editor } = useDesk();
  const figure = useFigure();
  const tick = view.document.build.ticks.find((one) => one.id === item.id);
  const toggle = () =>
    tick
      ? editor.edit({ kind: "remove", path: ["build", "ticks", { id: item.id }] })
      : editor.edit({
          kind: "insert",
          path: ["build", "ticks"],
          value: { id: item.id, by: initials, at: new Date().toLocaleString() },
        });
  return (
    <li className="py-0.5">
      <label className="flex gap-2">
        <input
          type="checkbox"
          className="mt-1"
          checked={tick !== undefined}
          disabled={!tick && initials === ""}
          onChange={toggle}
        />
        <span>
          {item.text}
          {tick && (
            <span className="ml-2 text-[12px] text-ink2">
              {tick.by}, {tick.at}
            </span>
          )}
        </span>
      </label>
      {item.expect && (
        <span className="ml-6 text-[12px]">
          Expect <Figure of={figure(item.expect)} />
        </span>
      )}
    </li>
  );
}

/** What is done before, while and after it is built; ticked with initials and time. */
export function Checklists() {
  const { view } = useDesk();
  const [initials, setInitials] = useState(() => localStorage.getItem(INITIALS) ?? "");
  const { build } = view.report;
  const keep = (text: string) => {
    const short = text.trim().slice(0, 12);
    setInitials(short);
    localStorage.setItem(INITIALS, short);
  };
  return (
    <Part title="Checklists" note={`${build.done} of ${build.done + build.to_do} done`}>
      <label className="mb-3 flex items-center gap-2">
        Your initials
        <input
          className="field w-24"
          maxLength={12}
          value={initials}
          onChange={(event) => keep(event.target.value)}
        />
        {initials === "" && <span className="text-[12px] text-ink2">type your initials to tick items</span>}
      </label>
      <div className="grid gap-x-8 gap-y-4 lg:grid-cols-2">
        {build.checklists.map((list) => (
          <section key={list.id} aria-label={list.title} className="break-inside-avoid">
            <h3 className="text-[13px] font-[640]">{list.title}</h3>
            <ul>
              {list.items.map((item) => (
                <Item key={item.id} item={item} initials={initials} />
              ))}
            </ul>
          </section>
        ))}
      </div>
    </Part>
  );
}
