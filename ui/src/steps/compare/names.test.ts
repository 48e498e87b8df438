import { expect, it } from "vitest";
import type { DesignView } from "../../api/client";
import { isOneSite, namesOf } from "./names";

const view = (site: string, name: string) =>
  ({ site_id: site, site_name: site, document: { name } }) as unknown as DesignView;

it("names designs with their site where they are of more than one", () => {
  const one = [view("Hut", "A"), view("Hut", "B")];
  expect(isOneSite(one)).toBe(true);
  expect(namesOf(one)).toEqual(["A", "B"]);
  const two = [...one, view("Shack", "A")];
  expect(isOneSite(two)).toBe(false);
  expect(namesOf(two)).toEqual(["Hut, A", "Hut, B", "Shack, A"]);
});
