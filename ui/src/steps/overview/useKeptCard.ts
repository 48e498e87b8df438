import { useEffect } from "react";
import type { DesignView } from "../../api/client";

const ASKED = "yonderstat.card";
const RESTS_MS = 5000;

/**
 * Has the service worker keep the wall card of the station as built, so that a phone at the site opens it without a
 * network. Made anew once a revision, and only when the page has rested a while, as it takes the server a second.
 */
export function useKeptCard({ id, as_built, revision }: DesignView, address: string): void {
  useEffect(() => {
    if (!as_built || !navigator.serviceWorker?.controller) return;
    const mark = `${address} ${revision}`;
    const timer = setTimeout(async () => {
      try {
        // A mark is not the card: what is kept goes with its site and with an older version of this program.
        const isKept = (await caches.match(address)) && localStorage.getItem(`${ASKED}.${id}`) === mark;
        if (!isKept && (await fetch(address)).ok) localStorage.setItem(`${ASKED}.${id}`, mark);
      } catch {
        // The server is away: what was kept before is still there, and it is asked again next time.
      }
    }, RESTS_MS);
    return () => clearTimeout(timer);
  }, [id, as_built, revision, address]);
}
