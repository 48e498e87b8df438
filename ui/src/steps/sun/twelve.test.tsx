import { QueryClient } from "@tanstack/react-query";
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { DesignEditor } from "../../api/designWire";
import { DeskContext } from "../../kit/context";
import { designView } from "../../test-design";
import { TwelveFields } from "./TwelveFields";

const PATH = ["sun", "own_hours"] as const;

function setUp() {
  const view = designView();
  const document = { ...view.document, sun: { own_hours: Array.from({ length: 12 }, () => 1) } };
  const editor = new DesignEditor("d1", new QueryClient());
  const edit = vi.spyOn(editor, "edit").mockImplementation(() => undefined);
  render(
    <DeskContext.Provider value={{ view: { ...view, document } as typeof view, editor }}>
      <TwelveFields title="Hours" path={PATH} dimension="number" />
    </DeskContext.Provider>,
  );
  return edit;
}

describe("twelve fields", () => {
  it("takes a row or a column of a spreadsheet from the month it is pasted into", async () => {
    const edit = setUp();
    await userEvent.click(screen.getByLabelText("Hours, March"));
    await userEvent.paste("3.5\t4,25\n5");
    expect(edit).toHaveBeenCalledWith(
      { kind: "set", path: [...PATH, 2], value: 3.5 },
      { kind: "set", path: [...PATH, 3], value: 4.25 },
      { kind: "set", path: [...PATH, 4], value: 5 },
    );
  });

  it("refuses whole what does not fit or cannot be read", async () => {
    const edit = setUp();
    await userEvent.click(screen.getByLabelText("Hours, December"));
    await userEvent.paste("1\t2");
    expect(screen.getByRole("alert")).toHaveTextContent("2 figures are too many, starting from December");
    await userEvent.click(screen.getByLabelText("Hours, January"));
    await userEvent.paste("1\tmany");
    expect(screen.getByRole("alert")).toHaveTextContent("February: We can’t read “many” as a number");
    expect(edit).not.toHaveBeenCalled();
  });
});
