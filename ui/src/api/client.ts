import createClient from "openapi-fetch";
import { create } from "zustand";
import { saidIn } from "../kit/said";
import { useSettings } from "../kit/settings";
import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type Design = Schemas["Design"];
export type DesignView = Schemas["DesignView"];
export type Report = Schemas["Report"];
export type Quantity = Schemas["Quantity"];
export type QuantityInput = Schemas["Input"];
export type Finding = Schemas["Finding"];
export type Change = Schemas["Change"];
export type NextAction = Schemas["NextAction"];
export type ProposedOperation = Schemas["Operation"];
export type Load = Schemas["Load"];
export type PanelString = Schemas["PanelString"];
export type SiteLine = Schemas["SiteLine"];
export type Summary = Schemas["Summary"];
export type Verdict = Schemas["Verdict"];
export type Catalogue = Schemas["Catalogue"];
export type Choice = Schemas["Choice"];
export type Basis = NonNullable<Schemas["KnownAmps"]["basis"]>;
export type PatchOperation = Schemas["PatchOperation"];
export type NewSite = Schemas["NewSite"];
export type Problem = Schemas["ProblemDocument"];
export type Bound = Schemas["Bound"];

// The server takes writes only as JSON, also those without a body; files where it asks for one.
export const client = createClient<paths>({
  baseUrl: window.location.origin,
  headers: { "Content-Type": "application/json" },
});

/** Since when an answer has been kept, where the server was away and the service worker gave it; else undefined. */
export const useAway = create<{ since: string | undefined }>()(() => ({ since: undefined }));

client.use({
  onResponse: ({ request, response }) => {
    const since = response.headers.get("X-Kept-Since");
    if (request.method === "GET" && since !== useAway.getState().since)
      useAway.setState({ since: since ?? undefined });
    return undefined;
  },
});

/** A file as the body of a request. */
export function asFile(content: string | Blob) {
  return {
    // The types know a file's body as text; what is sent is the file.
    body: content as string,
    bodySerializer: (body: string) => body,
    headers: { "Content-Type": "application/octet-stream" },
  };
}

/** A refusal by the server, with its problem document. */
export class Refusal extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail || problem.title);
  }
}

/** Why something was not done, in words: every fault the server named, or what went wrong on the way to it. */
export function reasonOf(error: unknown, most = 5): string {
  const faults =
    error instanceof Refusal ? error.problem.faults.slice(0, most).map((fault) => fault.message) : [];
  return faults.join("; ") || (error as Error).message;
}

/** The data of an answer, its sentences in the person's units; a `Refusal` if the server said no, an `Error` if it could not be reached. */
export async function answer<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const { data, error, response } = await call;
  if (response.ok) return saidIn(data as T, useSettings.getState().units);
  const problem = error as Problem | undefined;
  if (problem?.title) throw new Refusal(problem);
  throw new Error(`The server answered ${response.status}.`);
}
