import type { QueryClient } from "@tanstack/react-query";
import { createStore, type StoreApi } from "zustand/vanilla";
import { type Bound, type DesignView, type PatchOperation, Refusal } from "./client";
import { applied, collides, type Edit, type Path, pointerOf, RowGone, toPatch } from "./edits";
import { placeInWords } from "./places";
import { sitesKey } from "./queries";
import { keepWaiting, keptWaiting, sorted } from "./waitingEdits";

const MOST_REBASES = 5;
const RETRY_MS = 3000;

/** How the newest edit stands. */
export type SaveState =
  | { kind: "saved" }
  | { kind: "saving" }
  | { kind: "unreachable"; message: string }
  | { kind: "refused"; message: string };

/** An edit that another window's edit of the same field stands against. */
export type Collision = { edit: Edit; theirs: unknown };

/** What was refused at a place, and why; `value` is what was typed, so that it is not lost. */
export type Fault = { message: string; value?: unknown; bound?: Bound | null };

/** A text that cannot be read, and why: it waits in its field, also while another step is looked at. */
export type Unread = { text: string; error: string };

export type EditorState = {
  save: SaveState;
  faults: Record<string, Fault>;
  /** By the pointer of the field. */
  unread: Record<string, Unread>;
  collisions: Collision[];
};

/** A document with where it stands, as the server shows it. */
export type Held = { document: unknown; revision: number };

/** The way to a document that is kept: its place in the cache, and how it is read, changed, undone and redone. */
export type Wire<V extends Held> = {
  key: readonly string[];
  read: () => Promise<V>;
  patch: (operations: PatchOperation[], held: V) => Promise<V>;
  step: (way: "undo" | "redo", held: V) => Promise<V>;
};

/**
 * Sends a document's edits in order, one request at a time. The document on screen changes at once; the server's
 * answer brings the new report. A stale revision is rebased on the newest; only a field both changed is asked about.
 */
export class DocumentEditor<V extends Held = DesignView> {
  readonly state: StoreApi<EditorState> = createStore(() => ({
    save: { kind: "saved" } as SaveState,
    faults: {},
    unread: {},
    collisions: [],
  }));
  private waiting: Edit[] = [];
  private truth: V | undefined;
  private busy = false;
  private running: Promise<void> = Promise.resolve();
  private retry: ReturnType<typeof setTimeout> | undefined;

  constructor(
    readonly id: string,
    private readonly cache: QueryClient,
    private readonly wire: Wire<V>,
  ) {}

  edit(...edits: Edit[]): void {
    for (const edit of edits) if (edit.kind !== "set") this.forgetUnreadUnder(edit.path);
    this.waiting.push(...edits);
    this.show();
    this.keep();
    this.state.setState((now) => ({
      faults: this.faultsElsewhere(now.faults, edits),
      save: { kind: "saving" },
    }));
    this.run();
  }

  /** Take up what was typed before the page was closed, once the design is known. */
  takeUp(): void {
    const { document } = this.view;
    const { due, against } = sorted(document, keptWaiting(this.id));
    if (against.length > 0) {
      const collisions = against.map((edit) => ({ edit, theirs: document }));
      this.state.setState((now) => ({ collisions: [...now.collisions, ...collisions] }));
    }
    if (due.length > 0) this.edit(...due);
    else this.keep();
  }

  private keep(): void {
    keepWaiting(this.id, this.view.document, this.waiting);
  }

  async undo(): Promise<void> {
    await this.step("undo");
  }

  async redo(): Promise<void> {
    await this.step("redo");
  }

  /** Settle a collision: keep ours by sending it again, or leave theirs. */
  settle(collision: Collision, keepOurs: boolean): void {
    this.state.setState((now) => ({ collisions: now.collisions.filter((item) => item !== collision) }));
    if (keepOurs) this.edit(collision.edit);
  }

  clearFault(pointer: string): void {
    this.state.setState((now) => {
      const { [pointer]: _gone, ...faults } = now.faults;
      const settled = now.save.kind === "refused" && Object.keys(faults).length === 0;
      return { faults, save: settled ? { kind: "saved" } : now.save };
    });
  }

  /** Rows move when one comes or goes: what could not be read in one of them must not turn up in another. */
  private forgetUnreadUnder(path: Path): void {
    const list = this.pointer({ kind: "remove", path: path.slice(0, 2) });
    for (const pointer of Object.keys(this.state.getState().unread))
      if (pointer.startsWith(`${list}/`)) this.keepUnread(pointer, undefined);
  }

  /** Keep a text that cannot be read, or forget the one that was kept. */
  keepUnread(pointer: string, unread: Unread | undefined): void {
    this.state.setState((now) => {
      if (!unread && !(pointer in now.unread)) return now;
      const { [pointer]: _gone, ...others } = now.unread;
      return { unread: unread ? { ...others, [pointer]: unread } : others };
    });
  }

  /** Whether edits are still on their way. */
  get pending(): boolean {
    return this.busy || this.waiting.length > 0;
  }

  dispose(): void {
    clearTimeout(this.retry);
  }

  private run(): void {
    this.running = this.pump();
  }

  private get view(): V {
    const known = this.truth ?? this.cache.getQueryData<V>(this.wire.key);
    if (!known) throw new Error("the design is still loading");
    return known;
  }

  private show(): void {
    this.truth = this.view;
    let document = this.truth.document;
    for (const edit of this.waiting) {
      try {
        document = applied(document, edit);
      } catch (error) {
        if (!(error instanceof RowGone)) throw error;
      }
    }
    this.cache.setQueryData<V>(this.wire.key, { ...this.truth, document });
  }

  private take(view: V): void {
    this.truth = view;
    this.keep();
    this.show();
    if (this.waiting.length === 0) this.truth = undefined;
  }

  private async pump(): Promise<void> {
    if (this.busy) return this.running;
    this.busy = true;
    clearTimeout(this.retry);
    try {
      while (this.waiting.length > 0) await this.send([...this.waiting]);
      if (this.state.getState().save.kind !== "refused") this.state.setState({ save: { kind: "saved" } });
      // Stale, not asked for again: the list would judge the same edit a second time while the next one is typed.
      void this.cache.invalidateQueries({ queryKey: sitesKey, refetchType: "none" });
    } catch (error) {
      const message = error instanceof Error ? error.message : String(error);
      this.state.setState({ save: { kind: "unreachable", message } });
      this.retry = setTimeout(() => this.run(), RETRY_MS);
    } finally {
      this.busy = false;
    }
  }

  private async send(batch: Edit[]): Promise<void> {
    const base = this.view;
    for (let attempt = 0; ; attempt++) {
      const kept = this.withoutCollisions(base.document, batch);
      if (kept.length === 0) return this.finish(batch, this.view);
      try {
        const view = await this.patch(kept);
        return this.finish(batch, view);
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
        // The server is there but its database or disk is not: the edit waits and is sent again.
        if (error.problem.status === 503 || error.problem.status === 507) throw error;
        if (error.problem.status === 412 && attempt < MOST_REBASES) {
          this.truth = await this.wire.read();
        } else if (kept.length > 1) {
          // One bad edit must not take the good ones with it.
          for (const edit of kept) await this.send([edit]);
          return;
        } else {
          this.refuse(error, kept);
          return this.finish(batch, this.view);
        }
      }
    }
  }

  private withoutCollisions(base: unknown, batch: Edit[]): Edit[] {
    const theirs = this.view.document;
    const collisions = batch.filter((edit) => collides(base, theirs, edit)).map((edit) => ({ edit, theirs }));
    if (collisions.length > 0) {
      this.state.setState((now) => ({ collisions: [...now.collisions, ...collisions] }));
      this.waiting = this.waiting.filter((edit) => !collisions.some((item) => item.edit === edit));
    }
    return batch.filter((edit) => !collisions.some((item) => item.edit === edit));
  }

  private patch(batch: Edit[]): Promise<V> {
    const operations: PatchOperation[] = [];
    let document = this.view.document;
    for (const edit of batch) {
      try {
        operations.push(...toPatch(document, edit));
        document = applied(document, edit);
      } catch (error) {
        if (!(error instanceof RowGone)) throw error;
        this.state.setState({ save: { kind: "refused", message: `Not saved: ${error.message}.` } });
      }
    }
    if (operations.length === 0) return Promise.resolve(this.view);
    return this.wire.patch(operations, this.view);
  }

  private finish(batch: Edit[], view: V): void {
    this.waiting = this.waiting.filter((edit) => !batch.includes(edit));
    this.take(view);
  }

  private refuse(refusal: Refusal, batch: Edit[]): void {
    const faults: Record<string, Fault> = { ...this.state.getState().faults };
    for (const fault of refusal.problem.faults) {
      const edit = batch.find((item) => item.kind === "set" && fault.pointer.startsWith(this.pointer(item)));
      const pointer = edit ? this.pointer(edit) : fault.pointer;
      faults[pointer] = {
        message: fault.message,
        value: edit?.kind === "set" ? edit.value : undefined,
        bound: fault.bound,
      };
    }
    const first = refusal.problem.faults[0];
    const message = first
      ? `${placeInWords(this.view.document, first.pointer)} ${first.message}`
      : refusal.message;
    this.state.setState({ faults, save: { kind: "refused", message: `Not saved: ${message}.` } });
  }

  private faultsElsewhere(faults: Record<string, Fault>, edits: Edit[]): Record<string, Fault> {
    const here = edits.map((edit) => this.pointer(edit));
    return Object.fromEntries(Object.entries(faults).filter(([pointer]) => !here.includes(pointer)));
  }

  private pointer(edit: Edit): string {
    try {
      return pointerOf(this.view.document, edit.path);
    } catch (error) {
      if (error instanceof RowGone) return "";
      throw error;
    }
  }

  private async step(way: "undo" | "redo"): Promise<void> {
    // What was typed just before goes first: undo takes back the last edit, also one still on its way.
    await this.running;
    if (this.pending) return;
    this.busy = true;
    try {
      this.take(await this.wire.step(way, this.view));
      this.state.setState({ faults: {}, save: { kind: "saved" } });
    } catch (error) {
      if (error instanceof Refusal && error.problem.status === 412) this.take(await this.wire.read());
      this.state.setState({ save: { kind: "refused", message: (error as Error).message } });
    } finally {
      this.busy = false;
      if (this.waiting.length > 0) this.run();
    }
  }
}
