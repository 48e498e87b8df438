import { useAway } from "../api/client";

/** That the server is away, and how old what is shown is. */
export function Away() {
  const since = useAway((away) => away.since);
  if (!since) return null;
  return (
    <p role="status" className="no-print border-b border-hair bg-sheet px-4 py-1.5 text-fix">
      The server does not answer. You see the data from {new Date(since).toLocaleString()}. What you type is
      kept and sent when the server is back.
    </p>
  );
}
