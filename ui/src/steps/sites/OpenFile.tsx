import { useQueryClient } from "@tanstack/react-query";
import { type DragEvent, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, Refusal } from "../../api/client";
import { placeInWords } from "../../api/places";
import { sitesKey } from "../../api/queries";
import { freshKey } from "../../kit/freshKey";

const MOST_BYTES = 1_000_000;

/** A site's name from a file's: “harrier-ridge.yonderstat.json” is “harrier-ridge”. */
export const nameOf = (file: string) => file.replace(/(\.yonderstat)?\.json$/i, "").slice(0, 80) || "Opened";

/** What is wrong with a file, a line each. */
type Trouble = { file: string; lines: string[] };

async function readDocument(file: File): Promise<Record<string, unknown>> {
  if (file.size > MOST_BYTES) throw new Error("It is over 1 MB; a design is a few thousand bytes.");
  const document: unknown = JSON.parse(await file.text());
  if (typeof document !== "object" || document === null || Array.isArray(document)) {
    throw new Error("It holds no design: a design file is one JSON object.");
  }
  return document as Record<string, unknown>;
}

/** Opening a design file as a new site: picked, or dropped anywhere on the page. */
export function useOpenFile() {
  const cache = useQueryClient();
  const navigate = useNavigate();
  const picker = useRef<HTMLInputElement>(null);
  const [trouble, setTrouble] = useState<Trouble>();
  const take = async (file: File | undefined) => {
    if (!file) return;
    setTrouble(undefined);
    let document: Record<string, unknown> = {};
    try {
      document = await readDocument(file);
      const body = {
        name: nameOf(file.name),
        kind: "home" as const,
        purpose: "standby" as const,
        place: null,
        document,
      };
      const params = { header: { "Idempotency-Key": freshKey() } };
      const site = await answer(client.POST("/api/sites", { body, params }));
      await cache.invalidateQueries({ queryKey: sitesKey });
      navigate(`/designs/${site.designs[0]?.id}/brief`);
    } catch (error) {
      const faults = error instanceof Refusal ? error.problem.faults : [];
      const lines = faults.map(
        (fault) => `${placeInWords(document, fault.pointer.replace(/^\/document/, ""))} ${fault.message}`,
      );
      const said =
        error instanceof SyntaxError ? `It is no JSON: ${error.message}` : (error as Error).message;
      setTrouble({ file: file.name, lines: lines.length > 0 ? lines : [said] });
    }
  };
  return {
    picker,
    trouble,
    take,
    pick: () => picker.current?.click(),
    drop: {
      onDragOver: (event: DragEvent) => event.preventDefault(),
      onDrop: (event: DragEvent) => {
        event.preventDefault();
        void take(event.dataTransfer.files[0]);
      },
    },
  };
}

type Props = { open: ReturnType<typeof useOpenFile> };

export function OpenFile({ open }: Props) {
  return (
    <>
      <input
        ref={open.picker}
        type="file"
        accept=".json,application/json"
        aria-label="A design file"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          void open.take(event.target.files?.[0]);
          event.target.value = "";
        }}
      />
      <button type="button" className="btn btn-sm" onClick={open.pick}>
        Open a design file
      </button>
    </>
  );
}

/** Why a file was not opened. */
export function OpenTrouble({ open }: Props) {
  if (!open.trouble) return null;
  return (
    <div role="alert" className="border-b border-hair py-3 text-stop">
      <p>“{open.trouble.file}” was not opened. Nothing was kept.</p>
      <ul className="list-disc pl-5">
        {open.trouble.lines.slice(0, 12).map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </div>
  );
}
