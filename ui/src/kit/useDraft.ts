import { useState } from "react";

/** What is being typed in a field, until it is taken. A text that is refused stays, with the reason. */
export function useDraft(settled: string, take: (text: string) => string | undefined) {
  const [draft, setDraft] = useState<string>();
  const [error, setError] = useState<string>();
  const done = (text: string | undefined) => {
    if (text === undefined || text === settled) {
      setDraft(undefined);
      setError(undefined);
      return;
    }
    const refusal = take(text);
    setError(refusal);
    setDraft(refusal === undefined ? undefined : text);
  };
  return {
    text: draft ?? settled,
    error,
    change: (text: string) => {
      setDraft(text);
      setError(undefined);
    },
    commit: () => done(draft),
    revert: () => {
      setDraft(undefined);
      setError(undefined);
    },
  };
}
