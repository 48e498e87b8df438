import { describe, expect, it } from "vitest";
import { cellsOf } from "../../kit/pasteCells";
import { newLoad } from "../../test-design";
import { freeId, pasteInto } from "./columns";

const metric = { length: "metric", temperature: "C" } as const;
const at12 = () => 12;
const two = [newLoad("load-1"), newLoad("load-2")];

describe("pasteInto", () => {
  it("lays cells over rows and adds the rows it needs", () => {
    const cells = cellsOf("HF radio\t1\t1.6 A\t22\t6 %\t8\tVital\r\nRouter\t2\t900 mA\t\t0\t24\tuseful\r\n");
    const pasted = pasteInto(two, cells, 1, 0, metric, newLoad("blank"), at12);
    expect(pasted).toMatchObject({
      loads: [
        { id: "load-1" },
        {
          id: "load-2",
          name: "HF radio",
          receive_a: { value: 1.6 },
          transmit_a: { value: 22 },
          tier: "vital",
        },
        { id: "load-3", name: "Router", quantity: 2, receive_a: { value: 0.9 }, transmit_a: null },
      ],
    });
  });

  it("reads watts in a column of amps at the volts of the row", () => {
    const at = (load: { name: string }) => (load.name === "Router" ? 5 : 12);
    const pasted = pasteInto(
      two,
      cellsOf("Phone chargers\t1\t12 W\nRouter\t1\t10 W"),
      0,
      0,
      metric,
      newLoad("b"),
      at,
    );
    expect(pasted).toMatchObject({ loads: [{ receive_a: { value: 1 } }, { receive_a: { value: 2 } }] });
  });

  it.each([
    ["12 parsecs", /Line 1, Amps on receive, or while on: We can’t use the unit “parsecs”/],
    ["-3", /negative/],
    ["1\t2\t3\t4\t5\t6\t7", /Line 1/],
  ])("refuses %j whole, naming the line", (text, message) => {
    const pasted = pasteInto(two, cellsOf(text), 0, 2, metric, newLoad("blank"), at12);
    expect(pasted).toEqual({ error: expect.stringMatching(message) });
    expect(two[0]).toEqual(newLoad("load-1"));
  });

  it("refuses ten thousand rows in words", () => {
    const cells = cellsOf("a load\n".repeat(10_000));
    expect(pasteInto(two, cells, 0, 0, metric, newLoad("blank"), at12)).toEqual({
      error: expect.stringContaining("can hold 200"),
    });
  });
});

it("finds an id that is free", () => {
  expect(freeId(["load-3", "load-2"])).toBe("load-4");
});
