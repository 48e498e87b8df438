import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { expect, it } from "vitest";
import { DesignEditor } from "../../api/designWire";
import { DeskContext } from "../../kit/context";
import { designView } from "../../test-design";
import { type Asked, fakeServer } from "../../test-server";
import { Trainer } from "./Trainer";

type Body = {
  secret: number;
  days: number;
  evenings: { tempo: string; keep: string; low_power_w: number | null }[];
};

function setUp(): Asked[] {
  const view = designView();
  Object.assign(view.document.draw, { tempos: [{ id: "net", name: "Net" }] });
  Object.assign(view.report, { verdict: { hard_month: 6 } });
  const cache = new QueryClient();
  const asked = fakeServer(({ body }) => {
    const played = (body as Body).evenings.length;
    const report = {
      sentence: `${played} played`,
      over: false,
      days_played: played,
      told: [],
      whole: null,
      best: null,
    };
    return { body: { report } };
  });
  render(
    <QueryClientProvider client={cache}>
      <DeskContext.Provider value={{ view, editor: new DesignEditor("d1", cache) }}>
        <Trainer />
      </DeskContext.Provider>
    </QueryClientProvider>,
  );
  return asked;
}

it("practises one outage a day at a time: the same secret, each evening after the last", async () => {
  const asked = setUp();
  await userEvent.selectOptions(screen.getByLabelText("How long"), "3");
  await userEvent.click(screen.getByRole("button", { name: "Start the outage" }));
  await screen.findByText("0 played");
  await userEvent.selectOptions(screen.getByLabelText("What stays on"), "vital_only");
  await userEvent.selectOptions(screen.getByLabelText("Transmit power"), "25");
  await userEvent.click(screen.getByRole("button", { name: "Run this day" }));
  await screen.findByText("1 played");
  await userEvent.click(screen.getByRole("button", { name: "Run this day" }));
  await waitFor(() => expect(asked).toHaveLength(3));
  const bodies = asked.map(({ body }) => body as Body);
  expect(new Set(bodies.map(({ secret }) => secret)).size).toBe(1);
  expect(bodies.map(({ days, evenings }) => [days, evenings.length])).toEqual([
    [3, 0],
    [3, 1],
    [3, 2],
  ]);
  expect(bodies[1]?.evenings[0]).toMatchObject({ tempo: "net", keep: "vital_only", low_power_w: 25 });
});
