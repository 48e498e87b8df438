import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, asFile, client } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";
import { readAgain } from "./readAgain";

export type ImportRun = components["schemas"]["ImportRun"];
export type Picked = { file: File; columns: string[]; dates: string };
const LOOK_EVERY_MS = 300;

const goesOn = (run: ImportRun | undefined) => run?.state === "waiting" || run?.state === "running";

/** A record on its way in: sent, looked through by the worker, stored if a person says so, stopped at any time. */
export function useRecordImport() {
  const { view } = useDesk();
  const cache = useQueryClient();
  const [started, setStarted] = useState<ImportRun>();
  const path = { run_id: started?.id ?? "" };
  const polled = useQuery({
    queryKey: ["record-import", started?.id],
    enabled: started !== undefined,
    queryFn: () => answer(client.GET("/api/record-imports/{run_id}", { params: { path } })),
    refetchInterval: ({ state }) => (state.data === undefined || goesOn(state.data) ? LOOK_EVERY_MS : false),
  });
  const run = polled.data ?? started;
  const send = useMutation({
    mutationFn: ({ file, columns, dates }: Picked) =>
      answer(
        client.POST("/api/designs/{design_id}/record-imports", {
          params: {
            path: { design_id: view.id },
            query: { name: file.name, columns: columns.join(","), dates },
          },
          ...asFile(file),
        }),
      ),
    onSuccess: setStarted,
  });
  const act = useMutation({
    mutationFn: (word: "store" | "cancel") =>
      answer(
        word === "store"
          ? client.POST("/api/record-imports/{run_id}/store", { params: { path } })
          : client.POST("/api/record-imports/{run_id}/cancel", { params: { path } }),
      ),
    onSuccess: (now) => cache.setQueryData(["record-import", now.id], now),
  });
  const isKept = run?.state === "done" && run.stored;
  useEffect(() => {
    if (isKept) void readAgain(cache, view.site_id);
  }, [isKept, cache, view.site_id]);
  return {
    run,
    isWorking: send.isPending || act.isPending || goesOn(run),
    send,
    act,
    forget: () => setStarted(undefined),
  };
}
