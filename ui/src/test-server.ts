import { vi } from "vitest";

export type Asked = { method: string; path: string; query: URLSearchParams; headers: Headers; body: unknown };
type Reply = { status?: number; body?: unknown } | Error;

/** A stand-in for the server: answers in order of arrival by a function of the request, and remembers what was asked. */
export function fakeServer(reply: (asked: Asked) => Reply | Promise<Reply>): Asked[] {
  const asked: Asked[] = [];
  server.fetch = async (request: Request) => {
    const text = await request.text();
    const one: Asked = {
      method: request.method,
      path: new URL(request.url).pathname,
      query: new URL(request.url).searchParams,
      headers: request.headers,
      body: text ? JSON.parse(text) : undefined,
    };
    asked.push(one);
    const answer = await reply(one);
    if (answer instanceof Error) throw answer;
    const type = (answer.status ?? 200) < 300 ? "application/json" : "application/problem+json";
    return new Response(JSON.stringify(answer.body), {
      status: answer.status ?? 200,
      headers: { "Content-Type": type },
    });
  };
  return asked;
}

const server = {
  fetch: (_request: Request): Promise<Response> => Promise.reject(new Error("no fake server is set up")),
};

vi.stubGlobal("fetch", (request: Request) => server.fetch(request));
