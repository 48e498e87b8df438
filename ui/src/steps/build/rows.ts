import type { Path } from "../../api/edits";

const USUAL = { have: 0, price: null, weight_kg: null, where: "", bought: "", ahead_m: null, shelf: null };

/** The way to what is known of a line; the first thing typed puts its row in. */
export const rowPath = (id: string): Path => ["build", "parts", { id, orNew: { ...USUAL, id } }];
