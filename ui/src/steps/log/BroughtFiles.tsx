import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { useDesk } from "../../kit/context";
import { dayInWords } from "../../kit/dates";
import { readAgain } from "./readAgain";

/** The files a site’s record was brought in from; each can be taken out again whole. */
export function BroughtFiles() {
  const { view } = useDesk();
  const cache = useQueryClient();
  const path = { design_id: view.id };
  const { data } = useQuery({
    queryKey: ["record-imports", view.site_id],
    queryFn: () => answer(client.GET("/api/designs/{design_id}/record-imports", { params: { path } })),
  });
  const remove = useMutation({
    mutationFn: (id: number) =>
      answer(
        client.DELETE("/api/designs/{design_id}/record-imports", {
          params: { path, query: { file: String(id) } },
        }),
      ),
    onSuccess: () => readAgain(cache, view.site_id),
  });
  const zone = view.document.place?.time_zone;
  if (!data?.length) return null;
  return (
    <details className="mt-2">
      <summary className="min-h-6 cursor-pointer text-act">Files on record: {data.length}</summary>
      <ul>
        {data.map((file) => (
          <li key={file.id} className="flex flex-wrap items-baseline gap-x-3 border-b border-hair2 py-1">
            <span className="min-w-0 flex-1 break-words">{file.name}</span>
            <span className="text-ink2">
              {file.rows.toLocaleString()} rows, {dayInWords(file.first, zone)} to{" "}
              {dayInWords(file.last, zone)}
            </span>
            <button
              type="button"
              className="btn btn-xs btn-ghost text-act"
              disabled={remove.isPending}
              onClick={() => remove.mutate(file.id)}
            >
              Take {file.name} out of the record
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
