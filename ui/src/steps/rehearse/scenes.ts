import { useQuery } from "@tanstack/react-query";
import { create } from "zustand";
import { createJSONStorage, persist } from "zustand/middleware";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";
import { type SceneForm, sceneOf } from "./sceneForm";

/** What is played of a design, the newest first: also after a reload, until the window is closed. */
type Scenes = { of: Record<string, SceneForm[]>; play: (design: string, scene: SceneForm) => void };
const KEPT = 2;

export const useScenes = create<Scenes>()(
  persist(
    (set) => ({
      of: {},
      play: (design, scene) =>
        set(({ of }) => {
          const before = (of[design] ?? []).filter((item) => JSON.stringify(item) !== JSON.stringify(scene));
          return { of: { ...of, [design]: [scene, ...before].slice(0, KEPT) } };
        }),
    }),
    { name: "yonderstat.scenes", version: 1, storage: createJSONStorage(() => sessionStorage) },
  ),
);

/** A scene played on the design as it is now: changed, it is played again. */
export function useScene(scene: SceneForm) {
  const { view } = useDesk();
  return useQuery<components["schemas"]["SceneView"]>({
    queryKey: ["scene", view.id, view.revision, scene],
    retry: false,
    placeholderData: (before) => before,
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/designs/{design_id}/rehearse", {
          params: { path: { design_id: view.id } },
          body: sceneOf(scene),
          signal,
        }),
      ),
  });
}
