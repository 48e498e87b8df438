import { useEffect } from "react";
import type { DesignView } from "../../api/client";

const ASKED = "yonderstat.card";
const RESTS_MS = 5000;

/**
 * Has the service worker keep the wall card of the station as built, so that a phone at the site opens it without a
 * network. Made anew once a revision, and only when the page has rested a while, as it takes the server a second.
 */
export function useKeptCard({ as_built, revision }: DesignView, address: string): void {
  useEffect(() => {
    const mark = `${address} ${revision}`;
    if (!as_built || !navigator.serviceWorker?.controller || localStorage.getItem(ASKED) === mark) return;
    const timer = setTimeout(async () => {
      try {
        const card = await fetch(address);
        if (card.ok) localStorage.setItem(ASKED, mark);
      } catch {
        // The server is away: what was kept before is still there, and it is asked again next time.
      }
    }, RESTS_MS);
    return () => clearTimeout(timer);
  }, [as_built, revision, address]);
}
