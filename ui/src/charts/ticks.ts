/** Round values within a range, about so many: steps of 1, 2 or 5 times a power of ten. */
export function roundTicks(least: number, most: number, about: number): number[] {
  if (!(most > least)) return [];
  const rough = (most - least) / about;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = ([1, 2, 5].find((times) => times * power >= rough) ?? 10) * power;
  const first = Math.ceil(least / step);
  const last = Math.floor(most / step);
  return Array.from({ length: last - first + 1 }, (_, index) =>
    Number(((first + index) * step).toPrecision(12)),
  );
}
