/* The service worker: the app opens, and what was last seen can be read, while the server is away.

   Pages and parts come from the server where it answers, else as they were kept. Of the API only readings are kept,
   each with when it was; nothing is ever written from here: an edit waits in its page until the server is back. */

const KEPT = "yonderstat-1";
const SINCE = "X-Kept-Since";
const LONGEST_MS = 60_000;
const NOT_KEPT =
  "The server does not answer, and this printout was not opened here before. Open it once while you are connected; " +
  "it then stays on this device. Go back to return to the site.";
const PLAIN = { "Content-Type": "text/plain; charset=utf-8" };

self.addEventListener("install", (event) => {
  event.waitUntil(caches.open(KEPT).then((kept) => kept.add("/")));
  self.skipWaiting();
});

self.addEventListener("activate", (event) => {
  const old = caches.keys().then((names) => Promise.all(names.filter((name) => name !== KEPT).map((name) => caches.delete(name))));
  event.waitUntil(old.then(() => self.clients.claim()));
});

/** The answer with when it was had, so that a page can say how old it is. */
async function stamped(answer) {
  const headers = new Headers(answer.headers);
  headers.set(SINCE, new Date().toISOString());
  headers.delete("Content-Encoding");
  return new Response(await answer.blob(), { status: answer.status, headers });
}

/** Lets go of the parts of versions before this one: those the page no longer names are fetched when next wanted. */
async function letPartsGo(kept, page) {
  const before = await kept.match("/");
  if (!before || (await before.text()) === page) return;
  for (const request of await kept.keys()) {
    const { pathname } = new URL(request.url);
    if (pathname.startsWith("/assets/") && !page.includes(pathname)) await kept.delete(request);
  }
}

/** Lets go of what is kept of sites that are no longer there: put away, or taken out elsewhere. */
async function letSitesGo(kept, answer) {
  if (answer.headers.get("Link")) return;
  const sites = await answer.json();
  const known = new Set(sites.flatMap((site) => [site.id, ...site.designs.map((design) => design.id)]));
  for (const request of await kept.keys()) {
    const found = new URL(request.url).pathname.match(/^\/api\/(?:sites|designs)\/([0-9a-f-]{36})(?:\/|$)/);
    if (found && !known.has(found[1])) await kept.delete(request);
  }
}

async function fromServer(request, key) {
  const answer = await fetch(request, { signal: AbortSignal.timeout(LONGEST_MS) });
  const kept = await caches.open(KEPT);
  if (answer.ok) {
    const { pathname } = new URL(request.url);
    if (key === "/") await letPartsGo(kept, await answer.clone().text());
    if (pathname === "/api/sites") await letSitesGo(kept, answer.clone());
    await kept.put(key, await stamped(answer.clone()));
  } else if (answer.status === 404) await kept.delete(key);
  return answer;
}

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== "GET" || url.origin !== self.location.origin) return;
  if (url.pathname.endsWith("/file") || url.pathname.endsWith(".csv")) return;
  // What changes now is no reading to keep.
  if (url.pathname === "/api/live/events") return;
  // Every page is the one page; a paper that is opened is none of them.
  const isPaper = request.mode === "navigate" && url.pathname.startsWith("/api/");
  const key = request.mode === "navigate" && !isPaper ? "/" : request;
  const answer = url.pathname.startsWith("/assets/")
    ? caches.match(request).then((kept) => kept ?? fromServer(request, key))
    : fromServer(request, key).catch(async (error) => {
        // Kept by a page or opened by a person, it is the same paper.
        const kept = await caches.match(key, { ignoreVary: true });
        if (kept) return kept;
        if (isPaper) return new Response(NOT_KEPT, { status: 503, headers: PLAIN });
        throw error;
      });
  event.respondWith(answer);
});
