import { useEffect } from "react";
import { Link } from "react-router";

type Props = { what?: string; why?: string };

export function NotThere({
  what = "This page does not exist.",
  why = "It may have been removed, or the address is mistyped.",
}: Props) {
  useEffect(() => {
    document.title = "Not found – Yonderstat";
  }, []);
  return (
    <main className="grid min-h-full place-content-center gap-3 bg-sheet p-8 text-center">
      <h1 className="text-[19px]">{what}</h1>
      <p className="text-ink2">{why}</p>
      <p>
        <Link to="/" className="btn btn-sm btn-primary">
          Back to Sites
        </Link>
      </p>
    </main>
  );
}
