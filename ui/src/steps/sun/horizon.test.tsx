import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { DesignEditor } from "../../api/designWire";
import { DeskContext } from "../../kit/context";
import { designView } from "../../test-design";
import { fakeServer } from "../../test-server";
import { HorizonEditor } from "./HorizonEditor";

const LEFT = { azimuth_deg: 90, elevation_deg: 20 };
const RIGHT = { azimuth_deg: 270, elevation_deg: 3 };

function setUp() {
  fakeServer(() => ({ body: { tracks: [] } }));
  const view = designView();
  Object.assign(view.document, { sun: { horizon: [LEFT, RIGHT] } });
  Object.assign(view.report, { verdict: { hard_month: 6 } });
  const cache = new QueryClient();
  const editor = new DesignEditor("d1", cache);
  const edit = vi.spyOn(editor, "edit").mockImplementation(() => undefined);
  render(
    <QueryClientProvider client={cache}>
      <DeskContext.Provider value={{ view, editor }}>
        <HorizonEditor />
      </DeskContext.Provider>
    </QueryClientProvider>,
  );
  return edit;
}

describe("HorizonEditor", () => {
  it("moves a corner with the arrows, five degrees at once with Shift", async () => {
    const edit = setUp();
    const path = ["sun", "horizon"];
    screen.getByRole("slider", { name: "Skyline at 90°" }).focus();
    await userEvent.keyboard("{ArrowRight}");
    expect(edit).toHaveBeenLastCalledWith({
      kind: "set",
      path,
      value: [{ ...LEFT, azimuth_deg: 91 }, RIGHT],
    });
    screen.getByRole("slider", { name: "Skyline at 270°" }).focus();
    await userEvent.keyboard("{Shift>}{ArrowUp}{/Shift}");
    expect(edit.mock.lastCall?.[0]).toMatchObject({ value: [{}, { ...RIGHT, elevation_deg: 8 }] });
  });

  it("lets no corner under the ground", async () => {
    const edit = setUp();
    screen.getByRole("slider", { name: "Skyline at 270°" }).focus();
    await userEvent.keyboard("{Shift>}{ArrowDown}{/Shift}");
    const grounded = { azimuth_deg: 270, elevation_deg: 0 };
    expect(edit).toHaveBeenLastCalledWith({ kind: "set", path: ["sun", "horizon"], value: [LEFT, grounded] });
  });

  it("removes a corner", async () => {
    const edit = setUp();
    screen.getByRole("slider", { name: "Skyline at 90°" }).focus();
    await userEvent.keyboard("{Delete}");
    expect(edit).toHaveBeenCalledWith({ kind: "set", path: ["sun", "horizon"], value: [RIGHT] });
  });
});
