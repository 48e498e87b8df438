import { useQueryClient } from "@tanstack/react-query";
import { type ChangeEvent, useRef, useState } from "react";
import { answer, asFile, client, reasonOf } from "../../api/client";

type Outcome = { words: string; isTrouble: boolean };

/** The whole club as one file, out and in, and its places for maps. */
export function ClubFile() {
  const cache = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [outcome, setOutcome] = useState<Outcome>();
  const bring = async (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    event.target.value = "";
    if (!file) return;
    setOutcome({ words: `Reading ${file.name} …`, isTrouble: false });
    try {
      const params = { query: { name: file.name } };
      const done = await answer(client.POST("/api/club", { params, ...asFile(file) }));
      setOutcome({ words: done.words, isTrouble: false });
      await cache.invalidateQueries();
    } catch (error) {
      setOutcome({ words: `Nothing was imported. ${reasonOf(error)}`, isTrouble: true });
    }
  };
  return (
    <section aria-label="The whole club" className="mt-6">
      <p className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <a className="text-act hover:underline" href="/api/club.zip" download>
          Download the whole club as one file
        </a>
        <button
          type="button"
          className="btn btn-sm btn-ghost text-act"
          onClick={() => input.current?.click()}
        >
          Import a club file
        </button>
        <input
          ref={input}
          type="file"
          accept=".zip"
          aria-label="A club’s file"
          className="sr-only"
          tabIndex={-1}
          onChange={bring}
        />
        <a className="text-act hover:underline" href="/api/sites.geojson" download>
          Download locations: GeoJSON
        </a>
        <a className="text-act hover:underline" href="/api/sites.gpx" download>
          GPX
        </a>
      </p>
      {outcome && (
        <p
          role={outcome.isTrouble ? "alert" : "status"}
          className={outcome.isTrouble ? "text-stop" : "text-ink2"}
        >
          {outcome.words}
        </p>
      )}
    </section>
  );
}
