import { type ReactNode, useEffect, useRef, useState } from "react";
import { useOverlay } from "./overlay";
import { search } from "./search";

/** `words` are further words it is found by. */
export type Command = { name: string; hint?: string; words?: string; run: () => void };

const KEYS: [string, string][] = [
  ["0", "overview of the site"],
  ["1 – 9", "open a step"],
  ["/", "search: fields, findings, figures, loads, sites, commands"],
  ["n", "add a row, or a site"],
  ["w", "show how the selected figure (or the verdict) is calculated"],
  ["f", "findings"],
  ["c", "cautions"],
  ["m", "open or close the side panel"],
  ["[  ]", "previous or next design"],
  ["u", "undo"],
  ["Shift + u", "redo"],
  ["Enter, ↑ ↓", "in a table: next row, row above, row below"],
  ["Ctrl + D", "in a table: copy the value from the row above"],
  ["Ctrl + Delete", "in a table: remove the row"],
  ["Esc", "in a field: cancel the change; elsewhere: close"],
  ["?", "show this list"],
];

/** A modal box on the platform's own dialog: focus stays inside, Esc closes. */
function Modal({ label, children }: { label: string; children: ReactNode }) {
  const box = useRef<HTMLDialogElement>(null);
  const close = useOverlay((overlay) => overlay.close);
  useEffect(() => {
    const element = box.current;
    element?.showModal?.();
    return () => element?.close?.();
  }, []);
  return (
    <dialog
      ref={box}
      aria-label={label}
      className="m-auto w-[min(34rem,92vw)] rounded border border-hair bg-sheet p-4 text-ink shadow-xl backdrop:bg-black/30"
      onClose={close}
    >
      {children}
    </dialog>
  );
}

function Keys() {
  const close = useOverlay((overlay) => overlay.close);
  return (
    <Modal label="Keyboard shortcuts">
      <h2 className="mb-2 text-[16px]">Keys</h2>
      <p className="mb-3 text-ink2">Shortcuts are off while you type in a field.</p>
      <dl className="grid grid-cols-[8rem_1fr] gap-y-1.5">
        {KEYS.map(([key, what]) => (
          <div key={key} className="contents">
            <dt>
              <kbd className="kbd kbd-sm">{key}</kbd>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
      <button type="button" className="btn btn-sm mt-4" onClick={close}>
        Close
      </button>
    </Modal>
  );
}

const MOST_FOUND = 9;

function Palette({ commands }: { commands: Command[] }) {
  const close = useOverlay((overlay) => overlay.close);
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const found = search(commands, text, MOST_FOUND);
  const chosen = Math.min(at, found.length - 1);
  const run = (command: Command | undefined) => {
    if (!command) return;
    close();
    command.run();
  };
  return (
    <Modal label="Search and commands">
      <input
        className="field"
        aria-label="Search for a field, finding, figure, load, site or command"
        placeholder="Search: field, finding, figure, load, site or command"
        role="combobox"
        aria-expanded="true"
        aria-controls="palette-list"
        aria-activedescendant={found[chosen] ? `palette-${chosen}` : undefined}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
        }}
        onKeyDown={(event) => {
          if (event.key === "ArrowDown") setAt(Math.min(chosen + 1, found.length - 1));
          else if (event.key === "ArrowUp") setAt(Math.max(chosen - 1, 0));
          else if (event.key === "Enter") run(found[chosen]);
          else return;
          event.preventDefault();
        }}
      />
      <div id="palette-list" role="listbox" aria-label="Results" className="mt-2">
        {found.map((command, index) => (
          <div
            key={`${command.name} ${command.hint} ${index}`}
            id={`palette-${index}`}
            role="option"
            tabIndex={-1}
            aria-selected={index === chosen}
            className={`flex cursor-pointer justify-between rounded px-2 py-1.5 ${index === chosen ? "bg-actsoft" : ""}`}
            onClick={() => run(command)}
            onKeyDown={(event) => event.key === "Enter" && run(command)}
          >
            <span className="min-w-0 truncate">{command.name}</span>
            <span className="ml-3 shrink-0 text-ink2">{command.hint}</span>
          </div>
        ))}
      </div>
      {found.length === 0 && <p className="px-2 py-1.5 text-ink2">Nothing found. Try another word.</p>}
    </Modal>
  );
}

/** The list of keys and the palette, when asked for. */
export function Overlays({ commands }: { commands: Command[] }) {
  const which = useOverlay((overlay) => overlay.which);
  if (which === "keys") return <Keys />;
  if (which === "palette") return <Palette commands={commands} />;
  return null;
}
