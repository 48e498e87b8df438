import type { QueryClient } from "@tanstack/react-query";

/** What is on record has changed: an answer that is still on its way is of before, and is not waited for. */
export async function readAgain(cache: QueryClient, siteId: string): Promise<void> {
  for (const what of ["record", "series", "record-imports"]) {
    const queryKey = [what, siteId];
    await cache.cancelQueries({ queryKey });
    void cache.invalidateQueries({ queryKey });
  }
}
