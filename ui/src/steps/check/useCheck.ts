import { useQuery } from "@tanstack/react-query";
import { create } from "zustand";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";

type Schemas = components["schemas"];
export type Point = Schemas["Point"];
export type Moment = Schemas["Moment"];
export type Checked = Schemas["CheckedReading"];
export type Start = Schemas["CheckStart"];
export type View = Schemas["CheckView"];
export type Asked = Schemas["ReadingAsked"];

/** What was read and noticed at a station so far; it stays while one looks at other pages. */
export type Session = {
  readings: Asked[];
  moment?: Moment;
  symptom: string;
  of: string;
  point: string;
};

const EMPTY: Session = { readings: [], symptom: "", of: "", point: "" };

type Sessions = {
  by: Record<string, Session>;
  change: (designId: string, part: Partial<Session>) => void;
};

const useSessions = create<Sessions>()((set) => ({
  by: {},
  change: (designId, part) =>
    set(({ by }) => ({ by: { ...by, [designId]: { ...(by[designId] ?? EMPTY), ...part } } })),
}));

/** The session of the design that is open, and how to change it. */
export function useSession(): [Session, (part: Partial<Session>) => void] {
  const { view } = useDesk();
  const { by, change } = useSessions();
  return [by[view.id] ?? EMPTY, (part) => change(view.id, part)];
}

/** Where a meter can be put, and what may be noticed. */
export function useStart() {
  const { view } = useDesk();
  const params = { path: { design_id: view.id } };
  return useQuery({
    queryKey: ["check", view.id, view.revision],
    queryFn: () => answer(client.GET("/api/designs/{design_id}/check", { params })),
  });
}

/** Everything read so far, judged together; asked again when something of it changes. */
export function useChecked(session: Session, now: Moment | undefined) {
  const { view } = useDesk();
  const moment = session.moment ?? now;
  const { readings, symptom, of } = session;
  return useQuery({
    queryKey: ["check", view.id, view.revision, readings, moment, symptom, of],
    enabled: moment !== undefined,
    placeholderData: (before) => before,
    retry: false,
    queryFn: () =>
      answer(
        client.POST("/api/designs/{design_id}/check", {
          params: { path: { design_id: view.id } },
          body: { readings, moment: moment as Moment, symptom, of },
        }),
      ),
  });
}

/** Ask about one more reading; a refusal is thrown, and nothing is added. */
export async function tried(designId: string, asked: Asked, moment: Moment): Promise<Checked | undefined> {
  const view = await answer(
    client.POST("/api/designs/{design_id}/check", {
      params: { path: { design_id: designId } },
      body: { readings: [asked], moment, symptom: "", of: "" },
    }),
  );
  return view.readings[0];
}

/** A figure of a point, as a meter shows it. */
export function shown(value: number, unit: string): string {
  return `${value.toFixed(Math.abs(value) < 1 ? 2 : 1)} ${unit}`;
}
