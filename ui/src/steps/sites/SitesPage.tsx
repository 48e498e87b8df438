import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import type { SiteLine } from "../../api/client";
import { useCatalogue, useSites } from "../../api/queries";
import { type Command, Overlays } from "../../app/Overlays";
import { TopBar } from "../../app/TopBar";
import { useCommonKeys, useKey } from "../../app/useKeys";
import { LazyMap } from "../../charts/LazyMap";
import { useAttention } from "../../kit/attention";
import { useShown } from "../../kit/fields";
import { Mark } from "../../kit/Mark";
import { SummaryStrip } from "../../kit/MonthStrip";
import { withoutValue } from "../../kit/units";
import { LiveLine } from "../live/LiveLine";
import { type LiveStrip, type Reader, useLiveEvents, useLiveSites } from "../live/useLive";
import { ClubFile } from "./ClubFile";
import { FirstVisit } from "./FirstVisit";
import { NewSiteForm } from "./NewSiteForm";
import { OpenFile, OpenInto, OpenTrouble, useOpenFile } from "./OpenFile";
import { AskPutAway, PutAwayList, usePutAway } from "./PutAway";

/** Days without sun; pressing it opens the design with the figure's working. */
function DaysFigure({ site }: { site: SiteLine }) {
  const show = useShown();
  const navigate = useNavigate();
  const ask = useAttention((attention) => attention.ask);
  const { summary } = site;
  const key = summary?.days_key;
  if (!key) return <span className="text-[20px]">–</span>;
  const text = summary.days_without_sun === null ? withoutValue("d") : show(summary.days_without_sun, "d");
  return (
    <button
      type="button"
      className="figure text-[20px] font-[640] whitespace-nowrap"
      aria-label={`${site.name}: ${text} without sun. Show working`}
      onClick={() => {
        ask(key);
        navigate(`/designs/${site.design_id}/store`);
      }}
    >
      {text}
    </button>
  );
}

/** What a site's design comes to: the verdict and its worst finding, that it waits, or that it cannot be judged. */
function Judged({ site }: { site: SiteLine }) {
  if (site.trouble) {
    return (
      <div role="alert">
        <p className="text-[14px]">
          <b className="font-[700]">This site could not be checked.</b> {site.trouble}
        </p>
        <p className="mt-1 flex gap-4 text-[12px]">
          <Link to={`/designs/${site.design_id}/overview`} className="underline">
            Open
          </Link>
          <a href={`/api/designs/${site.design_id}/file`} className="underline" download>
            Download the design file
          </a>
        </p>
      </div>
    );
  }
  if (!site.summary) return <p className="text-[14px] text-ink2">Calculating…</p>;
  const { headline, rest, worst } = site.summary;
  return (
    <>
      <p className="text-[14px]">
        <b className="font-[700]">{headline}</b> {rest}
      </p>
      {worst && (
        <p className="mt-1 flex items-center gap-2 text-[12px] text-ink2">
          <Mark of={worst.severity} /> {worst.sentence}
        </p>
      )}
    </>
  );
}

type RowProps = {
  site: SiteLine;
  live: LiveStrip | undefined;
  reader: Reader | undefined;
  onPutAway: () => void;
};

function SiteRow({ site, live, reader, onPutAway }: RowProps) {
  const { data: catalogue } = useCatalogue();
  const name = (choices: { value: string; label: string }[] | undefined, value: string) =>
    choices?.find((choice) => choice.value === value)?.label ?? value;
  return (
    <li className="grid items-center gap-x-6 gap-y-2 border-b border-hair py-4 md:grid-cols-[13rem_1fr_16rem_5.5rem_2rem]">
      <div className="min-w-0">
        <h2 className="truncate text-[15px]">
          <Link to={`/designs/${site.design_id}/overview`} className="hover:underline" title={site.name}>
            {site.name}
          </Link>
        </h2>
        <p className="text-[12px] text-ink2">
          {[
            ...(site.summary
              ? [name(catalogue?.kinds, site.summary.kind), name(catalogue?.purposes, site.summary.purpose)]
              : []),
            site.locator ?? "no location",
          ].join(" · ")}
        </p>
      </div>
      <div className="min-w-0">
        <Judged site={site} />
      </div>
      <div>{site.summary && <SummaryStrip summary={site.summary} />}</div>
      <p className="md:text-right">
        {site.summary && (
          <>
            <DaysFigure site={site} />
            <span className="block text-[12px] text-ink2 max-md:ml-2 max-md:inline">without sun</span>
          </>
        )}
      </p>
      <button
        type="button"
        className="size-7 text-[12px] text-ink2 hover:underline"
        aria-label={`Archive ${site.name}`}
        title="Put away"
        onClick={onPutAway}
      >
        ✕
      </button>
      {live && reader && <LiveLine strip={live} reader={reader} />}
    </li>
  );
}

/** Where the sites are, once there are any with a place. */
function SitesMap({ sites }: { sites: SiteLine[] }) {
  const spots = sites.flatMap(({ id, name, summary }) => {
    const { latitude_deg = null, longitude_deg = null } = summary ?? {};
    return latitude_deg === null || longitude_deg === null ? [] : [{ latitude_deg, longitude_deg, id, name }];
  });
  if (spots.length === 0) return null;
  const names = spots.map((spot) => spot.name).join(", ");
  return (
    <div className="mt-6 max-w-[30rem]">
      <LazyMap spots={spots} label={`World map with ${names}`} />
    </div>
  );
}

/** Home: one strip a site. */
export function SitesPage() {
  const { data: sites, error } = useSites();
  const { data: live } = useLiveSites();
  useLiveEvents();
  const [making, setMaking] = useState(false);
  const { asking, setAsking, putAway } = usePutAway();
  const open = useOpenFile();
  const navigate = useNavigate();
  useEffect(() => {
    document.title = "Sites – Yonderstat";
  }, []);
  useCommonKeys();
  useKey("n", () => setMaking(true));
  const commands: Command[] = [
    { name: "New site", hint: "n", run: () => setMaking(true) },
    { name: "Open a design file", words: "import", run: open.pick },
    { name: "Club stores", words: "shelf parts spare outing", run: () => void navigate("/shelf") },
    { name: "Guide", words: "help manual glossary", run: () => void navigate("/guide") },
    ...(sites ?? []).map((site) => ({
      name: site.name,
      hint: "site",
      run: () => void navigate(`/designs/${site.design_id}/overview`),
    })),
  ];
  return (
    <div className="flex min-h-full flex-col bg-sheet" {...open.drop}>
      <TopBar>
        <span className="font-[640]">Sites</span>
      </TopBar>
      <main className="mx-auto w-full max-w-[1180px] px-4 py-5 sm:px-6">
        <div className="flex items-center gap-4 border-b border-hair pb-3">
          <h1 className="flex-1 text-[24px]">Sites</h1>
          <Link to="/shelf" className="text-act hover:underline">
            Club stores
          </Link>
          <OpenFile open={open} />
          <button type="button" className="btn btn-primary btn-sm" onClick={() => setMaking(true)}>
            New site <kbd className="font-normal opacity-80">n</kbd>
          </button>
        </div>
        <OpenTrouble open={open} />
        <OpenInto key={open.read?.file} open={open} sites={sites ?? []} />
        <FirstVisit />
        {asking && (
          <AskPutAway site={asking} onYes={() => putAway(asking)} onNo={() => setAsking(undefined)} />
        )}
        {making && <NewSiteForm onClose={() => setMaking(false)} />}
        {error && (
          <p role="alert" className="py-6 text-stop">
            The sites could not be loaded: {error.message}
          </p>
        )}
        {!sites && !error && <p className="py-6 text-ink2">Loading the sites…</p>}
        {sites?.length === 0 && !making && (
          <p className="py-8 text-[15px]">
            No sites yet. Press <kbd className="kbd kbd-sm">n</kbd> to create one: for example a home shack at
            RE55ov that must survive mains failures. It comes with usual loads, and a battery and panels sized
            to run them. All are marked as guesses.
          </p>
        )}
        <ul>
          {sites?.map((site) => (
            <SiteRow
              key={site.id}
              site={site}
              live={live?.sites.find((strip) => strip.site_id === site.id)}
              reader={live?.reader}
              onPutAway={() => setAsking(site)}
            />
          ))}
        </ul>
        <PutAwayList />
        <SitesMap sites={sites ?? []} />
        <ClubFile />
        <p className="mt-6 text-[12px] text-ink2">
          <Link to="/guide" className="underline">
            Guide and glossary
          </Link>
          {" · "}
          <Link to="/about" className="underline">
            Where the figures and data come from
          </Link>
        </p>
      </main>
      <Overlays commands={commands} />
    </div>
  );
}
