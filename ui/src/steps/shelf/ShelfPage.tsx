import { useQueryClient } from "@tanstack/react-query";
import { type ChangeEvent, useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { answer, asFile, client, reasonOf } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { Notices } from "../../app/Notices";
import { NotThere } from "../../app/NotThere";
import { Overlays } from "../../app/Overlays";
import { TopBar } from "../../app/TopBar";
import { useCommonKeys, useKey } from "../../app/useKeys";
import { DeskContext } from "../../kit/context";
import { HelpLine } from "../../kit/HelpLine";
import { Part, Wide } from "../../kit/layout";
import { pasteCells } from "../../kit/pasteCells";
import { useGridKeys } from "../../kit/useGridKeys";
import { Outings } from "./Outings";
import { PartRow } from "./PartRow";
import { deskOf, type ShelfPart, type ShelfView, shelfKey, useShelf, useShelfEditor } from "./useShelf";

const KINDS: [ShelfPart["kind"], string, string][] = [
  ["panel", "Panels", "Add panels"],
  ["battery", "Batteries", "Add a battery"],
  ["controller", "Charge controllers", "Add a controller"],
  ["charger", "Chargers", "Add a charger"],
  ["cable", "Cable", "Add cable"],
  ["fuse", "Fuses and switches", "Add fuses"],
  ["converter", "Converters and inverters", "Add a converter"],
  ["other", "Everything else", "Add something else"],
];
const HEADS = ["Part", "How many", "Free", "Condition", "Where it is kept", "Owner", ""];
const FILES = ["csv", "ods", "json"] as const;

/** Tables out and in. */
function Tables() {
  const cache = useQueryClient();
  const [trouble, setTrouble] = useState<string>();
  const input = useRef<HTMLInputElement>(null);
  const bring = async (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    event.target.value = "";
    if (!file) return;
    try {
      const params = { query: { name: file.name } };
      const view = await answer(client.POST("/api/shelf/table", { params, ...asFile(file) }));
      setTrouble(undefined);
      cache.setQueryData(shelfKey, view);
    } catch (error) {
      setTrouble(`Nothing was imported. ${reasonOf(error)}`);
    }
  };
  return (
    <Part title="Import or export" note="parts whose id already exists are updated; the others are added">
      <p className="flex flex-wrap items-center gap-x-4 gap-y-1">
        {FILES.map((ending) => (
          <a key={ending} className="text-act hover:underline" href={`/api/shelf.${ending}`} download>
            Download {ending.toUpperCase()}
          </a>
        ))}
        <button
          type="button"
          className="btn btn-sm btn-ghost text-act"
          onClick={() => input.current?.click()}
        >
          Import a table
        </button>
        <input
          ref={input}
          type="file"
          accept=".csv,.ods,.json"
          aria-label="A table of parts"
          className="sr-only"
          tabIndex={-1}
          onChange={bring}
        />
      </p>
      {trouble && (
        <p role="alert" className="mt-1 text-stop">
          {trouble}
        </p>
      )}
    </Part>
  );
}

function Parts({ view, add }: { view: ShelfView; add: (kind: ShelfPart["kind"]) => void }) {
  const { parts } = view.document;
  const onKeyDown = useGridKeys({
    rows: parts.length,
    columns: 5,
    onPastEnd: () => undefined,
    onFillDown: () => undefined,
    onRemove: () => undefined,
  });
  let row = -1;
  return (
    <Part title="Parts">
      {parts.length > 0 && (
        <Wide label="Parts in the club stores">
          <table className="w-full md:min-w-[760px]" onKeyDown={onKeyDown} onPaste={pasteCells}>
            <thead className="max-md:hidden">
              <tr className="border-b border-hair text-[12px] text-ink2">
                {HEADS.map((name, place) => (
                  <th
                    key={name}
                    scope="col"
                    className={`px-1.5 font-normal ${place === 2 ? "text-right" : "text-left"}`}
                  >
                    {name || <span className="sr-only">More and remove</span>}
                  </th>
                ))}
              </tr>
            </thead>
            {KINDS.filter(([kind]) => parts.some((part) => part.kind === kind)).map(([kind, title]) => (
              <tbody key={kind}>
                <tr>
                  <th
                    scope="rowgroup"
                    colSpan={HEADS.length}
                    className="pt-3 text-left text-[12px] text-ink2"
                  >
                    {title}
                  </th>
                </tr>
                {parts
                  .filter((part) => part.kind === kind)
                  .map((part) => {
                    row += 1;
                    return <PartRow key={part.id} part={part} row={row} view={view} />;
                  })}
              </tbody>
            ))}
          </table>
        </Wide>
      )}
      <p className="mt-2 flex flex-wrap gap-1">
        {KINDS.map(([kind, , words]) => (
          <button
            key={kind}
            type="button"
            className="btn btn-sm btn-ghost text-act"
            onClick={() => add(kind)}
          >
            {words}
          </button>
        ))}
      </p>
    </Part>
  );
}

function Sheet({ view }: { view: ShelfView }) {
  const editor = useShelfEditor(true);
  const { data: catalogue } = useCatalogue();
  const navigate = useNavigate();
  useCommonKeys();
  useKey("u", () => void editor.undo(), [editor]);
  useKey("shift+u", () => void editor.redo(), [editor]);
  const add = (kind: ShelfPart["kind"]) => {
    const first = catalogue?.firsts.shelf_parts[kind];
    if (!first) return;
    const taken = new Set(view.document.parts.map((part) => part.id));
    let number = 1;
    while (taken.has(`${kind}-${number}`)) number++;
    editor.edit({ kind: "insert", path: ["parts"], value: { ...first, id: `${kind}-${number}` } });
  };
  return (
    <DeskContext.Provider value={deskOf(view, editor)}>
      <div className="flex min-h-full flex-col bg-sheet">
        <TopBar
          undo={{ can: view.can_undo, run: () => void editor.undo() }}
          redo={{ can: view.can_redo, run: () => void editor.redo() }}
        >
          <span className="font-[640]">Club stores</span>
        </TopBar>
        <Notices />
        <main id="sheet" className="relative mx-auto w-full max-w-[1180px] px-4 py-5 sm:px-6">
          <h1 className="border-b border-hair pb-3 text-[24px]">The club stores</h1>
          <p className="my-3 text-[14px]">{view.takeaway}</p>
          <Parts view={view} add={add} />
          <Outings view={view} />
          <Tables />
          <HelpLine />
        </main>
        <Overlays
          commands={[
            { name: "All sites", words: "home", run: () => void navigate("/") },
            { name: "Guide", words: "help", run: () => void navigate("/guide") },
            ...KINDS.map(([kind, , words]) => ({ name: words, run: () => add(kind) })),
            { name: "Undo", hint: "u", run: () => void editor.undo() },
          ]}
        />
      </div>
    </DeskContext.Provider>
  );
}

/** What lies about in the club: one shelf for all its sites. */
export function ShelfPage() {
  const { data: view, error } = useShelf();
  useEffect(() => {
    document.title = "Club stores – Yonderstat";
  }, []);
  if (error) return <NotThere what="The club stores could not be loaded." why={error.message} />;
  if (!view) return <p className="p-8 text-ink2">Loading the club stores…</p>;
  return <Sheet view={view} />;
}
