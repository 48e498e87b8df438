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

/** A file that was read and waits to be put somewhere; `name` is the site’s it came from. */
type ReadFile = { file: string; document: Record<string, unknown>; name: string };

/** What is wrong with a file, a line each. */
type Trouble = { file: string; lines: string[] };

async function readDocument(file: File): Promise<Record<string, unknown>> {
  if (file.size > MOST_BYTES)
    throw new Error(
      "It is larger than 1 MB. A design file is only a few kB, so this is probably another file.",
    );
  const document: unknown = JSON.parse(await file.text());
  if (typeof document !== "object" || document === null || Array.isArray(document)) {
    throw new Error("It is not a design file. A design file holds one JSON object.");
  }
  return document as Record<string, unknown>;
}

/** Opening a design file as a new site: picked, or dropped anywhere on the page. */
export function useOpenFile() {
  const cache = useQueryClient();
  const navigate = useNavigate();
  const picker = useRef<HTMLInputElement>(null);
  const [trouble, setTrouble] = useState<Trouble>();
  const [read, setRead] = useState<ReadFile>();
  const refuse = (file: string, document: Record<string, unknown>, error: unknown) => {
    const faults = error instanceof Refusal ? error.problem.faults : [];
    const lines = faults.map(
      (fault) => `${placeInWords(document, fault.pointer.replace(/^\/document/, ""))} ${fault.message}`,
    );
    const said =
      error instanceof SyntaxError ? `It is not valid JSON: ${error.message}` : (error as Error).message;
    setTrouble({ file, lines: lines.length > 0 ? lines : [said] });
    setRead(undefined);
  };
  /** Put a file that was read under a new site of its own name, or under one that is there. */
  const open = async ({ file, document, name }: ReadFile, siteId: string) => {
    const params = { header: { "Idempotency-Key": freshKey() } };
    try {
      const designId = siteId
        ? (
            await answer(
              client.POST("/api/sites/{site_id}/designs", {
                params: { path: { site_id: siteId }, ...params },
                body: { document, copy_of: null, patch: [] },
              }),
            )
          ).id
        : (
            await answer(
              client.POST("/api/sites", {
                params,
                body: { name, kind: "home", purpose: "standby", place: null, document },
              }),
            )
          ).designs[0]?.id;
      await cache.invalidateQueries({ queryKey: sitesKey });
      setRead(undefined);
      navigate(`/designs/${designId}/brief`);
    } catch (error) {
      refuse(file, document, error);
    }
  };
  const take = async (file: File | undefined) => {
    if (!file) return;
    setTrouble(undefined);
    try {
      const document = await readDocument(file);
      const name = typeof document.site === "string" && document.site ? document.site : nameOf(file.name);
      setRead({ file: file.name, document, name });
    } catch (error) {
      refuse(file.name, {}, error);
    }
  };
  return {
    picker,
    trouble,
    read,
    take,
    open,
    leave: () => setRead(undefined),
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

/** Where a file that was read goes: a new site, or one that is there. */
export function OpenInto({ open, sites }: Props & { sites: { id: string; name: string }[] }) {
  const [siteId, setSiteId] = useState("");
  if (!open.read) return null;
  const { read } = open;
  return (
    <form
      className="flex flex-wrap items-center gap-2 border-b border-hair py-3"
      aria-label="Where the design goes"
      onSubmit={(event) => {
        event.preventDefault();
        void open.open(read, siteId);
      }}
    >
      <label className="flex flex-wrap items-center gap-2">
        “{read.file}” goes into
        <select className="field w-auto" value={siteId} onChange={(event) => setSiteId(event.target.value)}>
          <option value="">a new site, {read.name}</option>
          {sites.map((site) => (
            <option key={site.id} value={site.id}>
              {site.name}, as another design
            </option>
          ))}
        </select>
      </label>
      <button type="submit" className="btn btn-sm btn-primary">
        Open it
      </button>
      <button type="button" className="btn btn-sm btn-ghost" onClick={open.leave}>
        Cancel
      </button>
      <p className="w-full text-[12px] text-ink2">
        It takes no parts from the club stores until you say so in Build.
      </p>
    </form>
  );
}

/** Why a file was not opened. */
export function OpenTrouble({ open }: Props) {
  if (!open.trouble) return null;
  return (
    <div role="alert" className="border-b border-hair py-3 text-stop">
      <p>“{open.trouble.file}” could not be opened. Nothing was saved.</p>
      <ul className="list-disc pl-5">
        {open.trouble.lines.slice(0, 12).map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </div>
  );
}
