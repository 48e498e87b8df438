/** Lines typed while the server was out of reach: kept with the page closed, sent when it is back, never twice. */
import { create } from "zustand";
import { answer, client, Refusal } from "../../api/client";

export type Waiting = { key: string; designId: string; said: string; who: string; taken_at: string };
type Outbox = { lines: Waiting[]; refused: string | undefined; add: (line: Waiting) => void };

const KEY = "yonderstat.outbox";

function kept(): Waiting[] {
  const text = localStorage.getItem(KEY);
  if (text === null) return [];
  try {
    const found = JSON.parse(text) as unknown;
    return Array.isArray(found) ? (found as Waiting[]) : [];
  } catch (error) {
    if (error instanceof SyntaxError) return [];
    throw error;
  }
}

function keep(lines: Waiting[]) {
  if (lines.length === 0) localStorage.removeItem(KEY);
  else localStorage.setItem(KEY, JSON.stringify(lines));
}

export const useOutbox = create<Outbox>()((set) => ({
  lines: kept(),
  refused: undefined,
  add: (line) =>
    set((now) => {
      const lines = [...now.lines, line];
      keep(lines);
      return { lines };
    }),
}));

/** A line to the server under its own key: sent again it is the same line. */
export function sendLine({ key, designId, said, who, taken_at }: Waiting) {
  return answer(
    client.POST("/api/designs/{design_id}/log", {
      params: { path: { design_id: designId } },
      headers: { "Idempotency-Key": key },
      body: { said, who, taken_at },
    }),
  );
}

let sending = false;

/** Send what waits, in order. What the server refuses is let go and said; what cannot be sent waits on. How many went. */
export async function sendWaiting(): Promise<number> {
  if (sending) return 0;
  sending = true;
  let sent = 0;
  try {
    for (const line of [...useOutbox.getState().lines]) {
      try {
        await sendLine(line);
        sent += 1;
      } catch (error) {
        if (!(error instanceof Refusal) || error.problem.status >= 500) break;
        useOutbox.setState({ refused: `“${line.said}” was not saved: ${error.message}` });
      }
      useOutbox.setState((now) => {
        const lines = now.lines.filter((item) => item.key !== line.key);
        keep(lines);
        return { lines };
      });
    }
  } finally {
    sending = false;
  }
  return sent;
}
