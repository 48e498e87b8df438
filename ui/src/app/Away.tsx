import { useAway } from "../api/client";

/** That the server is away, and how old what is shown is. */
export function Away() {
  const since = useAway((away) => away.since);
  if (!since) return null;
  return (
    <p role="status" className="no-print border-b border-hair bg-sheet px-4 py-1.5 text-fix">
      The server is away. This is as it was on {new Date(since).toLocaleString()}; what you type waits until
      it is back.
    </p>
  );
}
