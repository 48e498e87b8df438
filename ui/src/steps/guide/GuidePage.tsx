import { useEffect } from "react";
import { NavLink, useParams } from "react-router";
import { NotThere } from "../../app/NotThere";
import { Overlays } from "../../app/Overlays";
import { TopBar } from "../../app/TopBar";
import { useCommonKeys } from "../../app/useKeys";
import { TOPICS } from "./topics";

/** The guide: the topics in the order of work, and our own few words. */
export default function GuidePage() {
  const { topic } = useParams();
  const found = topic ? TOPICS.find((item) => item.id === topic) : TOPICS[0];
  useCommonKeys();
  useEffect(() => {
    document.title = `${found?.title ?? "Guide"} – Yonderstat`;
  }, [found]);
  if (!found) return <NotThere what="This guide page does not exist." />;
  return (
    <div className="flex min-h-full flex-col bg-sheet">
      <TopBar>
        <span className="font-[640]">Guide</span>
      </TopBar>
      <div className="mx-auto flex w-full max-w-[1100px] gap-8 px-4 py-5 max-md:flex-col sm:px-6">
        <nav aria-label="Topics" className="no-print md:w-56 md:shrink-0">
          <ol>
            {TOPICS.map((item) => (
              <li key={item.id}>
                <NavLink
                  to={`/guide/${item.id}`}
                  className={`block rounded px-2 py-1.5 ${item === found ? "bg-actsoft font-[640] text-act" : "hover:underline"}`}
                  aria-current={item === found ? "page" : undefined}
                >
                  {item.title}
                </NavLink>
              </li>
            ))}
          </ol>
        </nav>
        {/* Our own pages, shipped with the app. */}
        <main className="guide min-w-0 flex-1" dangerouslySetInnerHTML={{ __html: found.html }} />
      </div>
      <Overlays commands={[]} />
    </div>
  );
}
