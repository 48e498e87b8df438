import { useRef, useState } from "react";
import type { Unread } from "../api/editor";

type Options = {
  /** Takes what is typed also where it is what already stands there: a guess retyped is no guess any more. */
  confirms?: boolean;
  /** The text that could not be read, kept beyond the field's own life, and how to keep it. */
  kept?: Unread;
  keep?: (unread: Unread | undefined) => void;
};

/** What is being typed in a field, until it is taken. A text that is refused stays, with the reason. */
export function useDraft(
  settled: string,
  take: (text: string) => string | undefined,
  { confirms = false, kept, keep }: Options = {},
) {
  const [draft, setDraft] = useState<string | undefined>(kept?.text);
  const [error, setError] = useState<string | undefined>(kept?.error);
  // Enter takes a text and moves on, and leaving the field takes it too, before the page is drawn anew: only once.
  const typed = useRef(kept?.text);
  const forget = () => {
    typed.current = undefined;
    setDraft(undefined);
    setError(undefined);
    keep?.(undefined);
  };
  const done = (text: string | undefined) => {
    if (text === undefined || (text === settled && !confirms)) return forget();
    const refusal = take(text);
    if (refusal === undefined) return forget();
    setError(refusal);
    setDraft(text);
    keep?.({ text, error: refusal });
  };
  return {
    text: draft ?? settled,
    error,
    change: (text: string) => {
      typed.current = text;
      setDraft(text);
      setError(undefined);
    },
    commit: () => done(typed.current),
    revert: forget,
  };
}
