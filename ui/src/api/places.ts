const UNITS: Record<string, string> = {
  a: "amps",
  ah: "amp-hours",
  c: "temperature",
  d: "days",
  deg: "degrees",
  h: "hours",
  kg: "weight",
  m: "length",
  mm2: "copper",
  v: "volts",
  w: "watts",
  wh: "watt-hours",
};

/** What screens call a part of the document by another name than its key; empty is not said. */
const NAMES: Record<string, string> = {
  array: "panels",
  asked_days: "days to last",
  bank: "",
  bus: "wiring",
  draw: "loads",
  layers: "second battery",
  mm2: "wire size",
  rail: "supply line",
  rails: "supply lines",
  runs: "wires",
  sized_on: "activity level it is sized for",
  store: "battery",
  tempos: "activity levels",
  tier: "priority",
};

/** A field's name as words: `receive_a` is “receive, amps”. */
function words(name: string): string {
  const called = NAMES[name];
  if (called !== undefined) return called;
  const parts = name.split("_");
  const unit = parts.length > 1 ? UNITS[parts.at(-1) ?? ""] : undefined;
  return unit ? `${parts.slice(0, -1).join(" ")}, ${unit}` : parts.join(" ");
}

/** Where a JSON pointer lies in a document, as a person would say it: “Loads, HF radio, receive, amps”. */
export function placeInWords(document: unknown, pointer: string): string {
  const said: string[] = [];
  let node: unknown = document;
  for (const step of pointer.split("/").slice(1)) {
    const inList = Array.isArray(node);
    node = (node as Record<string, unknown> | null | undefined)?.[step];
    if (inList) {
      const name = (node as { name?: unknown } | null | undefined)?.name;
      said.splice(said.length - 1, 1, typeof name === "string" ? name : `${said.at(-1)} ${Number(step) + 1}`);
    } else if (step !== "value") said.push(words(step));
  }
  const place = said.filter(Boolean).join(", ");
  return place === "" ? "The design" : place.charAt(0).toUpperCase() + place.slice(1);
}

/** A place that came in parts: “Battery, unit, amp-hours”. */
export function placeOf(parts: readonly string[]): string {
  const said = parts.map(words).filter(Boolean).join(", ");
  return said.charAt(0).toUpperCase() + said.slice(1);
}
