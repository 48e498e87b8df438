import { useRef, useState } from "react";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema";

type Schemas = components["schemas"];
export type Activity = Schemas["Activity-Output"];
export type Proposal = Schemas["LoggedTempo"];
export type OverLength = Schemas["OverLength"];
export type Malformed = Schemas["Malformed"];

const PART_CHARACTERS = 1_000_000;
const MOST_CHARACTERS = 80_000_000;

export type LogState =
  | { kind: "none" }
  | { kind: "reading"; share: number }
  | { kind: "failed"; message: string }
  | { kind: "read"; proposal: Proposal; overs: OverLength[]; malformed: Malformed[]; malformedCount: number };

/** Cut a log between records, so that each part can be read by itself. */
export function partsOf(text: string, size = PART_CHARACTERS): string[] {
  const parts: string[] = [];
  const end = /<eor>/gi;
  let from = 0;
  while (from < text.length) {
    end.lastIndex = from + size;
    const hit = end.exec(text);
    const to = hit ? hit.index + hit[0].length : text.length;
    parts.push(text.slice(from, to));
    from = to;
  }
  return parts.length > 1 && parts.at(-1)?.trim() === "" ? parts.slice(0, -1) : parts;
}

function keyOf(item: Activity): string {
  return `${item.day} ${item.hour} ${item.band} ${item.mode}`;
}

/** Reads a contact log part by part, with progress, and asks for a tempo. */
export function useContactLog(designId: string) {
  const [state, setState] = useState<LogState>({ kind: "none" });
  const kept = useRef<{ activity: Activity[]; malformed: Malformed[]; malformedCount: number }>(undefined);
  const run = useRef(0);

  const propose = async (overs: OverLength[] | null) => {
    if (!kept.current) return;
    const { activity, malformed, malformedCount } = kept.current;
    const params = { path: { design_id: designId } };
    const call = client.POST("/api/designs/{design_id}/logged-tempo", { params, body: { activity, overs } });
    const proposed = await answer(call);
    setState({ kind: "read", ...proposed, malformed, malformedCount });
  };

  const read = async (file: File) => {
    const mine = ++run.current;
    setState({ kind: "reading", share: 0 });
    try {
      if (file.size > MOST_CHARACTERS)
        throw new Error("The file is larger than 80 MB. Export a shorter period and try again.");
      const form = /\.adx$/i.test(file.name) ? "adx" : "adi";
      const text = await file.text();
      const parts = form === "adx" ? [text] : partsOf(text);
      const counts = new Map<string, Activity>();
      const malformed: Malformed[] = [];
      let malformedCount = 0;
      let before = 0;
      for (const [index, part] of parts.entries()) {
        const digest = await answer(client.POST("/api/contact-logs/digest", { body: { form, text: part } }));
        if (mine !== run.current) return;
        for (const item of digest.activity) {
          const known = counts.get(keyOf(item));
          counts.set(keyOf(item), known ? { ...known, contacts: known.contacts + item.contacts } : item);
        }
        malformed.push(...digest.malformed.map((item) => ({ ...item, record: item.record + before })));
        malformedCount += digest.malformed_count;
        before += digest.contacts + digest.malformed_count;
        setState({ kind: "reading", share: (index + 1) / parts.length });
      }
      if (counts.size === 0)
        throw new Error(`None of the ${before} records could be read. The first one: ${malformed[0]?.why}.`);
      kept.current = { activity: [...counts.values()], malformed: malformed.slice(0, 50), malformedCount };
      await propose(null);
    } catch (error) {
      if (mine === run.current) setState({ kind: "failed", message: (error as Error).message });
    }
  };

  const stop = () => {
    run.current++;
    setState({ kind: "none" });
  };
  return { state, read, stop, propose };
}
