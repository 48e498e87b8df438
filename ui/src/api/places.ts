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

/** A field's name as words: `receive_a` is “receive, amps”. */
function words(name: string): string {
  const parts = name.split("_");
  const unit = parts.length > 1 ? UNITS[parts.at(-1) ?? ""] : undefined;
  return unit ? `${parts.slice(0, -1).join(" ")}, ${unit}` : parts.join(" ");
}

/** Where a JSON pointer lies in a document, as a person would say it: “Draw, HF set, receive, amps”. */
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
  const place = said.join(", ");
  return place === "" ? "The design" : place.charAt(0).toUpperCase() + place.slice(1);
}

/** A place that came in parts: “Store, bank, unit, amp-hours”. */
export function placeOf(parts: readonly string[]): string {
  const said = parts.map(words).join(", ");
  return said.charAt(0).toUpperCase() + said.slice(1);
}
