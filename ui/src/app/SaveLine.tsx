import { useEffect, useState } from "react";
import { useStore } from "zustand";
import { useDesk } from "../kit/context";

const TICK_MS = 5000;

function ago(since: string, now: number): string {
  const seconds = Math.max(0, Math.round((now - Date.parse(since)) / 1000));
  if (seconds < 5) return "just now";
  if (seconds < 60) return `${seconds} s ago`;
  if (seconds < 3600) return `${Math.round(seconds / 60)} min ago`;
  if (seconds < 86400) return `${Math.round(seconds / 3600)} h ago`;
  return `on ${new Date(since).toLocaleDateString()}`;
}

/** Whether the design is saved, in words. */
export function SaveLine() {
  const { view, editor } = useDesk();
  const save = useStore(editor.state, (state) => state.save);
  const unread = useStore(editor.state, (state) => Object.keys(state.unread).length);
  const [now, setNow] = useState(Date.now);
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), TICK_MS);
    return () => clearInterval(timer);
  }, []);
  const left = unread === 1 ? "one field" : `${unread} fields`;
  const words = {
    saved: unread
      ? `Saved, except ${left}: we cannot read what you typed there`
      : `Saved ${ago(view.saved_at, now)}`,
    saving: "Saving…",
    unreachable: "Not saved: the server does not answer. Trying again…",
    refused: "Not saved",
  }[save.kind];
  const bad = unread > 0 || save.kind === "unreachable" || save.kind === "refused";
  return (
    <p
      role="status"
      className={`whitespace-nowrap text-[12px] max-sm:sr-only ${bad ? "text-stop" : "text-ink2"}`}
    >
      {words}
    </p>
  );
}
