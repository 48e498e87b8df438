import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useEffect } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { answer, client, type DesignView } from "../../api/client";
import { placeOf } from "../../api/places";
import { useDesign, useSite } from "../../api/queries";
import { NotThere } from "../../app/NotThere";
import { Overlays } from "../../app/Overlays";
import { TopBar } from "../../app/TopBar";
import { useCommonKeys } from "../../app/useKeys";
import { useAttention } from "../../kit/attention";
import { useShown } from "../../kit/fields";
import { Mark, worstOf } from "../../kit/Mark";
import { MONTHS, MonthStrip } from "../../kit/MonthStrip";

const SAME = 1e-6;

/** The figures set side by side: a name and the figure's key in a report. */
const FIGURES: [string, (view: DesignView) => string | null | undefined][] = [
  ["Usable", ({ report }) => report.store?.usable_ah],
  ["Usable energy", ({ report }) => report.store?.usable_wh],
  ["Days without sun", ({ report }) => report.store?.days_without_sun],
  ["Drawn a day", ({ report }) => report.draw.daily_ah],
  ["Sun on the panels, hard month", ({ report }) => report.energy_line.sun_hours],
  ["Into the bank a day, hard month", ({ report }) => report.energy_line.array_wh],
  ["Short a day, hard month", ({ report }) => report.energy_line.gap_wh],
  ["At the lowest set, keyed at the end", ({ report }) => report.bus.lowest_v],
  ["To buy, of what has a price", ({ report }) => report.build.to_buy],
  ["Weight of what is known", ({ report }) => report.build.weight_kg],
];

/** A figure of one of the two: pressing it opens that design with the figure's working. */
function Asked({ view, figureKey, text }: { view: DesignView; figureKey: string; text: string }) {
  const navigate = useNavigate();
  const ask = useAttention((attention) => attention.ask);
  return (
    <button
      type="button"
      className="figure"
      aria-label={`${text}, ${view.document.name}. Show working`}
      onClick={() => {
        ask(figureKey);
        navigate(`/designs/${view.id}/brief`);
      }}
    >
      {text}
    </button>
  );
}

function Figures({ first, second }: { first: DesignView; second: DesignView }) {
  const show = useShown();
  const rows: [string, string, string][] = [
    [
      "Hard month",
      ...([first, second].map((view) => MONTHS[view.report.verdict.hard_month - 1] ?? "") as [
        string,
        string,
      ]),
    ],
    ...FIGURES.map(([name, key]): [string, string, string] => {
      const [mine, theirs] = [first, second].map((view) => {
        const figure = view.report.working[key(view) ?? ""];
        return figure ? show(figure.value, figure.unit) : "–";
      });
      return [name, mine ?? "–", theirs ?? "–"];
    }),
  ];
  return (
    <Table
      label="Figures side by side"
      heads={["", first.document.name ?? "", second.document.name ?? ""]}
      rows={rows}
      cell={(name, text, side) => {
        const view = side === 0 ? first : second;
        const key = FIGURES.find(([label]) => label === name)?.[1](view);
        return key && view.report.working[key] ? <Asked view={view} figureKey={key} text={text} /> : text;
      }}
    />
  );
}

type TableProps = {
  label: string;
  heads: string[];
  rows: [string, string, string][];
  cell?: (name: string, text: string, side: 0 | 1) => ReactNode;
};

function Table({ label, heads, rows, cell = (_, text) => text }: TableProps) {
  return (
    <table aria-label={label} className="w-full max-w-[52rem]">
      <thead>
        <tr className="border-b border-hair text-ink2">
          {heads.map((head, index) => (
            <th key={`${head} ${index}`} scope="col" className="py-1 text-left font-normal">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(([name, mine, theirs]) => (
          <tr key={name} className="border-b border-hair2">
            <th scope="row" className="w-1/2 py-1 pr-3 text-left font-normal">
              {name}
            </th>
            <td className={`pr-3 ${mine === theirs ? "text-ink2" : ""}`}>{cell(name, mine, 0)}</td>
            <td className={mine === theirs ? "text-ink2" : "font-[640]"}>{cell(name, theirs, 1)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const plain = (value: string | number | boolean | null) =>
  value === null ? "not given" : value === true ? "yes" : value === false ? "no" : String(value);

/** Every field that is not the same. */
function WhatDiffers({ first, second }: { first: DesignView; second: DesignView }) {
  const { data } = useQuery({
    queryKey: ["differences", first.id, first.revision, second.id, second.revision],
    queryFn: () =>
      answer(
        client.GET("/api/designs/{design_id}/differences", {
          params: { path: { design_id: second.id }, query: { from: first.id } },
        }),
      ),
  });
  if (!data) return <p className="text-ink2">Looking …</p>;
  if (data.length === 0) return <p>Nothing: every field is the same.</p>;
  const rows = data.map((item): [string, string, string] => {
    const close =
      typeof item.first === "number" &&
      typeof item.second === "number" &&
      Math.abs(item.first - item.second) < SAME;
    return [placeOf(item.place), plain(item.first), close ? plain(item.first) : plain(item.second)];
  });
  return (
    <Table
      label="What differs"
      heads={["", first.document.name ?? "", second.document.name ?? ""]}
      rows={rows}
    />
  );
}

function Verdict({ view }: { view: DesignView }) {
  const { verdict, findings, working } = view.report;
  const worst = worstOf(findings);
  return (
    <article className="min-w-0">
      <h2 className="text-[16px]">
        <Link to={`/designs/${view.id}/brief`} className="hover:underline">
          {view.document.name}
        </Link>
      </h2>
      <p className="my-1 text-[15px]">
        <b className="font-[700]">{verdict.headline}</b> {verdict.rest}
      </p>
      <MonthStrip verdict={verdict} figures={working} />
      {worst && (
        <p className="mt-2 flex items-center gap-2 text-[12px] text-ink2">
          <Mark of={worst} />{" "}
          {findings.find((finding) => finding.severity === worst && !finding.muted)?.sentence}
        </p>
      )}
    </article>
  );
}

function Both({ first, second }: { first: string; second: string }) {
  const one = useDesign(first).data;
  const two = useDesign(second).data;
  if (!one || !two) return <p className="text-ink2">Opening both …</p>;
  return (
    <>
      <div className="mb-6 grid gap-6 md:grid-cols-2">
        <Verdict view={one} />
        <Verdict view={two} />
      </div>
      <h2 className="mb-1 text-[15px]">Figures</h2>
      <Figures first={one} second={two} />
      <h2 className="mt-6 mb-1 text-[15px]">What differs</h2>
      <WhatDiffers first={one} second={two} />
    </>
  );
}

/** Two designs of a site side by side: what they come to, and every field that is not the same. */
export function ComparePage() {
  const { designId = "" } = useParams();
  const [params, setParams] = useSearchParams();
  const { data: view, error } = useDesign(designId);
  const { data: site } = useSite(view?.site_id);
  useCommonKeys();
  useEffect(() => {
    document.title = `Compare, ${view?.site_name ?? ""} – Yonderstat`;
  }, [view?.site_name]);
  if (error) return <NotThere what="There is no such design." />;
  const others = site?.designs.filter((design) => design.id !== designId) ?? [];
  const other = params.get("with") ?? others[0]?.id;
  return (
    <div className="flex min-h-full flex-col bg-sheet">
      <TopBar>
        <Link to={`/designs/${designId}/brief`} className="font-[640] hover:underline">
          {view?.site_name}
        </Link>
      </TopBar>
      <main className="mx-auto w-full max-w-[1100px] px-4 py-5 sm:px-6">
        <div className="mb-4 flex flex-wrap items-center gap-3 border-b border-hair pb-3">
          <h1 className="flex-1 text-[22px]">Side by side</h1>
          {others.length > 1 && (
            <label className="flex items-center gap-2">
              With
              <select
                className="field w-auto"
                value={other}
                onChange={(event) => setParams({ with: event.target.value }, { replace: true })}
              >
                {others.map((design) => (
                  <option key={design.id} value={design.id}>
                    {design.name}
                  </option>
                ))}
              </select>
            </label>
          )}
        </div>
        {site && others.length === 0 && (
          <p>
            This site has one design. Press + beside its name for a copy, change what you wonder about, and
            compare the two here.
          </p>
        )}
        {other && <Both first={designId} second={other} />}
      </main>
      <Overlays commands={[]} />
    </div>
  );
}
