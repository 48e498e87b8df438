import { BookOpen, CircleHelp, Moon, Redo2, Search, Sun, Undo2 } from "lucide-react";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { useSettings } from "../kit/settings";
import { useOverlay } from "./overlay";

function Name() {
  return (
    <Link to="/" className="flex items-center gap-2 text-[17px] font-[640] text-act [font-stretch:88%]">
      <svg
        viewBox="0 0 24 24"
        width="20"
        height="20"
        aria-hidden="true"
        fill="none"
        stroke="currentColor"
        strokeWidth="2.4"
        strokeLinejoin="round"
        strokeLinecap="round"
      >
        <path d="M2 19 9 7l4 7 2-3 7 8" />
        <circle cx="16.5" cy="5.5" r="2" className="fill-sun" stroke="none" />
      </svg>
      <span className="max-sm:sr-only">Yonderstat</span>
    </Link>
  );
}

export function IconButton(props: {
  label: string;
  onClick: () => void;
  disabled?: boolean;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={props.label}
      title={props.label}
      disabled={props.disabled}
      onClick={props.onClick}
      className="rounded p-1.5 text-ink2 hover:text-ink disabled:opacity-40"
    >
      {props.children}
    </button>
  );
}

function UnitsChoice() {
  const { units, setUnits } = useSettings();
  const value = `${units.length} ${units.temperature}`;
  return (
    <select
      aria-label="Units"
      className="rounded bg-transparent px-1 py-1 text-ink2 max-sm:w-16"
      value={value}
      onChange={(event) => {
        const [length, temperature] = event.target.value.split(" ");
        setUnits({ length: length as "metric" | "feet", temperature: temperature as "C" | "F" });
      }}
    >
      <option value="metric C">Metric · °C</option>
      <option value="feet F">Feet, AWG · °F</option>
      <option value="feet C">Feet · °C</option>
      <option value="metric F">Metric · °F</option>
    </select>
  );
}

type Props = {
  children?: ReactNode;
  undo?: { can: boolean; run: () => void };
  redo?: { can: boolean; run: () => void };
};

export function TopBar({ children, undo, redo }: Props) {
  const { theme, setTheme } = useSettings();
  const show = useOverlay((overlay) => overlay.show);
  const other = theme === "daylight" ? "lamplight" : "daylight";
  return (
    <header className="no-print flex min-h-12 flex-wrap items-center gap-x-4 gap-y-1 border-b border-hair bg-ground px-4 py-1">
      <Name />
      <div className="flex min-w-0 flex-1 items-center gap-2 max-md:order-last max-md:basis-full">
        {children}
      </div>
      <span className="flex-1 md:hidden" />
      <div className="flex items-center gap-1">
        {undo && (
          <IconButton label="Undo (u)" onClick={undo.run} disabled={!undo.can}>
            <Undo2 size={16} />
          </IconButton>
        )}
        {redo && (
          <IconButton label="Redo (Shift+u)" onClick={redo.run} disabled={!redo.can}>
            <Redo2 size={16} />
          </IconButton>
        )}
        <IconButton label="Search and commands (/)" onClick={() => show("palette")}>
          <Search size={16} />
        </IconButton>
        <UnitsChoice />
        <IconButton label={`Switch to ${other}`} onClick={() => setTheme(other)}>
          {theme === "daylight" ? <Moon size={16} /> : <Sun size={16} />}
        </IconButton>
        <Link to="/guide" className="rounded p-1.5 text-ink2 hover:text-ink" aria-label="Guide" title="Guide">
          <BookOpen size={16} />
        </Link>
        <IconButton label="Keyboard shortcuts (?)" onClick={() => show("keys")}>
          <CircleHelp size={16} />
        </IconButton>
      </div>
    </header>
  );
}
