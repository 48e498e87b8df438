/** A day in words, by a site's own clock: a date in figures is read two ways. */
export function dayInWords(moment: string | null | undefined, zone: string | null | undefined): string {
  if (!moment) return "";
  const shown = { day: "numeric", month: "long", year: "numeric", timeZone: zone ?? undefined } as const;
  return new Intl.DateTimeFormat("en-GB", shown).format(new Date(moment));
}
