import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";

export type MapAsk = Partial<components["schemas"]["MapAsk"]>;
type MapView = components["schemas"]["MapView"];
export type SizingMap = components["schemas"]["SizingMap"];

const COARSE = 8;
const FINE = 40;
const RESTS_MS = 250;

function useMapOf(ask: MapAsk, steps: number, enabled: boolean) {
  const { view } = useDesk();
  return useQuery<MapView>({
    queryKey: ["sizing-map", view.id, view.revision, steps, ask],
    enabled,
    placeholderData: (before) => before,
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/designs/{design_id}/sizing-map", {
          params: { path: { design_id: view.id } },
          body: { ...ask, steps },
          signal,
        }),
      ),
  });
}

/** A value once it has stood still for a moment. */
function useRested<T>(value: T): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), RESTS_MS);
    return () => clearTimeout(timer);
  }, [value]);
  return rested;
}

/** The sizing map of the design as it is now: a coarse one at once, the fine one as soon as nobody drags any more. */
export function useSizingMap(ask: MapAsk) {
  const key = JSON.stringify(ask);
  const rested = useRested(key);
  const coarse = useMapOf(ask, COARSE, true);
  const fine = useMapOf(JSON.parse(rested), FINE, coarse.data !== undefined);
  const isFine = rested === key && fine.data !== undefined && !fine.isPlaceholderData;
  const found = isFine ? fine : coarse;
  return {
    map: found.data?.map,
    impossible: found.data !== undefined && !found.data.map,
    refining: !isFine,
    /** What is shown answers what was asked before: it can be read, and nothing is built of it. */
    late: found.isPlaceholderData,
    error: coarse.error ?? fine.error,
  };
}

/** A map to stand beside others: as fine as the large one, so that both name the same sizes. */
export function useSmallMap(ask: MapAsk) {
  return useMapOf(ask, FINE, true).data?.map;
}
