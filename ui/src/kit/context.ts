import { createContext, useContext, useEffect, useMemo } from "react";
import { useStore } from "zustand";
import type { DesignView, Quantity } from "../api/client";
import type { DesignEditor } from "../api/designWire";
import type { Fault, Unread } from "../api/editor";
import { type Path, pointerOf, RowGone, valueAt } from "../api/edits";
import { useAttention } from "./attention";

export type Desk = { view: DesignView; editor: DesignEditor };
export const DeskContext = createContext<Desk | undefined>(undefined);

/** The design being worked on, and the way to change it. */
export function useDesk(): Desk {
  const desk = useContext(DeskContext);
  if (!desk) throw new Error("used outside a design");
  return desk;
}

/** A figure of the report by key. */
export function useFigure(): (key: string | null | undefined) => Quantity | undefined {
  const { view } = useDesk();
  const asides = useAttention((attention) => attention.asides);
  return (key) => (key ? (view.report.working[key] ?? asides[key]) : undefined);
}

/** Figures that came apart from the report, made askable; `prefix` keeps two of a kind apart. */
export function useAside(
  working: Record<string, Quantity> | undefined,
  prefix: string,
): (key: string | null | undefined) => Quantity | undefined {
  const bring = useAttention((attention) => attention.bring);
  const named = useMemo(() => (working ? prefixed(working, prefix) : {}), [working, prefix]);
  useEffect(() => bring(named), [bring, named]);
  return (key) => (key ? named[`${prefix}${key}`] : undefined);
}

function prefixed(working: Record<string, Quantity>, prefix: string): Record<string, Quantity> {
  return Object.fromEntries(
    Object.values(working).map((quantity) => [
      `${prefix}${quantity.key}`,
      {
        ...quantity,
        key: `${prefix}${quantity.key}`,
        inputs: quantity.inputs.map((item) => (item.ref ? { ...item, ref: `${prefix}${item.ref}` } : item)),
      },
    ]),
  );
}

/** A field of the document: its value, what the server said about it, and how to set it. */
export function useField<T>(path: Path) {
  const { view, editor } = useDesk();
  const pointer = safePointer(view.document, path);
  const fault = useStore(editor.state, (state) => faultAt(state.faults, pointer));
  const unread = useStore(editor.state, (state) => state.unread[pointer]);
  return {
    unread,
    keepUnread: (kept: Unread | undefined) => editor.keepUnread(pointer, kept),
    bound: fault?.bound,
    value: (fault?.value !== undefined ? fault.value : valueAt(view.document, path)) as T,
    fault: fault?.message,
    pointer,
    set: (value: T) => editor.edit({ kind: "set", path, value }),
    clearFault: () => {
      if (fault) editor.clearFault(pointer);
    },
  };
}

function safePointer(document: unknown, path: Path): string {
  try {
    return pointerOf(document, path);
  } catch (error) {
    if (error instanceof RowGone) return "";
    throw error;
  }
}

/** A fault on the field itself or on a part of it. */
function faultAt(faults: Record<string, Fault>, pointer: string): Fault | undefined {
  const hit = Object.keys(faults).find((key) => key === pointer || key.startsWith(`${pointer}/`));
  return hit === undefined ? undefined : faults[hit];
}
