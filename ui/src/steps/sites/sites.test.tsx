import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { MemoryRouter, Route, Routes } from "react-router";
import { expect, it } from "vitest";
import type { SiteLine } from "../../api/client";
import { DesignPage } from "../../app/DesignPage";
import { fakeServer } from "../../test-server";
import { SitesPage } from "./SitesPage";

const SUMMARY: NonNullable<SiteLine["summary"]> = {
  name: "A",
  kind: "home",
  purpose: "standby",
  latitude_deg: null,
  longitude_deg: null,
  headline: "Carries three days.",
  rest: "All year.",
  state: "good",
  share_of: "chance of lasting the days you asked for",
  hard_month: 6,
  months: Array.from({ length: 12 }, () => ({ in_use: true, share: 1, state: "good" as const })),
  days_without_sun: 2.5,
  days_key: "store.days_without_sun",
  worst: { severity: "mind", sentence: "Mind the gap" },
};

function line(name: string, summary: SiteLine["summary"], trouble: string | null): SiteLine {
  const design = { id: `${name}-design`, name: "A", as_built: true, revision: 1 };
  return { id: name, name, locator: null, design_id: design.id, designs: [design], summary, trouble };
}

const READER = { is_down: false, beat_at: null, waiting: 0 };

function open(path: string) {
  const cache = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  render(
    <QueryClientProvider client={cache}>
      <MemoryRouter initialEntries={[path]}>
        <Routes>
          <Route path="/" element={<SitesPage />} />
          <Route path="/designs/:designId/:step" element={<DesignPage />} />
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );
}

it("a site that cannot be judged, and one that waits, keep their lines beside the others", async () => {
  const sites = [
    line("Fine", SUMMARY, null),
    line("Broken", null, "ZeroDivisionError: x"),
    line("New", null, null),
  ];
  const away = [{ id: "s9", name: "Old hut", since: "2026-01-01T00:00:00Z" }];
  const answers: Record<string, unknown> = {
    "/api/sites": sites,
    "/api/put-away": away,
    "/api/live": { sites: [], reader: READER },
  };
  fakeServer((one) => ({ body: answers[one.path] ?? {} }));
  open("/");
  await screen.findByText("Calculating…");
  await userEvent.click(await screen.findByText("Archived (1)"));
  expect(screen.getByRole("button", { name: "Restore Old hut" })).toBeVisible();
  const [fine, broken, waiting] = ["Fine", "Broken", "New"].map((name) => {
    const item = screen.getByRole("heading", { name }).closest("li");
    if (!item) throw new Error(`${name} has no line`);
    return within(item);
  });
  expect(fine?.getByText("Carries three days.")).toBeVisible();
  expect(fine?.getByText("Mind the gap")).toBeVisible();
  expect(fine?.getByRole("button", { name: /2.5.* without sun/ })).toBeVisible();
  expect(broken?.getByRole("alert")).toHaveTextContent(
    "This site could not be checked. ZeroDivisionError: x",
  );
  expect(broken?.getByRole("link", { name: "Download the design file" })).toHaveAttribute(
    "href",
    "/api/designs/Broken-design/file",
  );
  expect(waiting?.getByText("Calculating…")).toBeVisible();
});

it("a design that cannot be judged offers undo and its file, and says that it is kept", async () => {
  const problem = {
    type: "urn:x",
    title: "This design cannot be judged",
    status: 500,
    detail: "The program has a fault.",
    faults: [],
    current_revision: 7,
  };
  const asked = fakeServer((one) =>
    one.method === "POST"
      ? { status: 409, body: { ...problem, detail: "there is nothing to undo" } }
      : { status: 500, body: problem },
  );
  open("/designs/d1/draw");
  expect(await screen.findByRole("heading", { name: "This design cannot be judged." })).toBeVisible();
  expect(screen.getByText("The design is safe: revision 7 is stored.")).toBeVisible();
  expect(screen.getByRole("link", { name: "Download the design file" })).toHaveAttribute(
    "href",
    "/api/designs/d1/file",
  );
  await userEvent.click(screen.getByRole("button", { name: "Undo the last edit" }));
  expect(await screen.findByText("there is nothing to undo")).toBeVisible();
  const undo = asked.find((one) => one.method === "POST");
  expect(undo?.path).toBe("/api/designs/d1/undo");
  expect(undo?.headers.get("If-Match")).toBe("7");
});
