import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";

export type MapAsk = components["schemas"]["MapAsk"];
export type SizingMap = components["schemas"]["SizingMap"];
const LOOK_EVERY_MS = 400;
const RUNNING = ["waiting", "running"];

/** A sizing map as a job: ask for it, look how far it is, stop it. */
export function useMapRun() {
  const { view } = useDesk();
  const [id, setId] = useState<string>();
  const { data: run } = useQuery({
    queryKey: ["map-run", id],
    enabled: id !== undefined,
    refetchInterval: ({ state }) =>
      !state.data || RUNNING.includes(state.data.state) ? LOOK_EVERY_MS : false,
    queryFn: () =>
      answer(client.GET("/api/sizing-maps/{run_id}", { params: { path: { run_id: id ?? "" } } })),
  });
  const ask = useMutation({
    mutationFn: (body: MapAsk) =>
      answer(
        client.POST("/api/designs/{design_id}/sizing-maps", {
          params: { path: { design_id: view.id } },
          body,
        }),
      ),
    onSuccess: (made) => setId(made.id),
  });
  const stop = useMutation({
    mutationFn: () =>
      answer(client.POST("/api/sizing-maps/{run_id}/cancel", { params: { path: { run_id: id ?? "" } } })),
  });
  const state = stop.data?.id === id ? stop.data?.state : run?.state;
  return {
    run,
    state,
    busy: ask.isPending || (id !== undefined && (state === undefined || RUNNING.includes(state))),
    stoppable: id !== undefined && !ask.isPending,
    old: run !== undefined && run.revision !== view.revision,
    start: ask.mutate,
    stop: stop.mutate,
    error: ask.error ?? stop.error,
  };
}
