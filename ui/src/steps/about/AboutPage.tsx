import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { Overlays } from "../../app/Overlays";
import { TopBar } from "../../app/TopBar";
import { useCommonKeys } from "../../app/useKeys";

const MARKS: Record<string, string> = {
  P: "published",
  C: "common practice",
  M: "from memory, not yet checked",
};

function Citations() {
  const { data } = useQuery({
    queryKey: ["sources"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => answer(client.GET("/api/sources")),
  });
  if (!data) return null;
  const all = Object.entries(data);
  const shipped = all.filter(([, item]) => item.licence);
  const rules = all.filter(([, item]) => !item.licence && item.mark);
  return (
    <>
      <h2 className="mt-6 mb-2 text-[17px]">Data included with the app</h2>
      <ul className="space-y-2">
        {shipped.map(([id, item]) => (
          <li key={id}>
            {item.title}. <span className="text-ink2">{item.licence}</span>
          </li>
        ))}
      </ul>
      <h2 className="mt-6 mb-2 text-[17px]">Rules and tables</h2>
      <ul className="space-y-1">
        {rules.map(([id, item]) => (
          <li key={id}>
            {item.title}.{" "}
            {!item.title.includes("from memory") && <span className="text-ink2">{MARKS[item.mark]}</span>}
          </li>
        ))}
      </ul>
    </>
  );
}

/** What the app is, what its figures rest on, and whose data it carries. */
export function AboutPage() {
  useCommonKeys();
  return (
    <div className="flex min-h-full flex-col bg-sheet">
      <TopBar>
        <span className="font-[640]">About</span>
      </TopBar>
      <main className="mx-auto w-full max-w-[760px] px-4 py-5 sm:px-6">
        <h1 className="mb-3 text-[24px]">Where the figures come from</h1>
        <p>
          Click any figure to see its formula, inputs and source. Nothing is downloaded while you work: sun,
          terrain, climate, towns and map are all on this machine.
        </p>
        <p className="mt-2">
          Panels, batteries and mains can hurt and kill. The cautions here defer to your local code and to
          licensed people.
        </p>
        <Citations />
      </main>
      <Overlays commands={[]} />
    </div>
  );
}
