/** Rows of two numbers parted by commas, as “290 30, 330 30”; signs of the unit are left out. */
export function readPairs<T>(
  text: string,
  row: (first: number, second: number) => T,
  what: string,
): T[] | { error: string } {
  const found: T[] = [];
  for (const part of text.split(",").filter((item) => item.trim() !== "")) {
    const [first, second, ...rest] = part.trim().replaceAll(/[%°]/g, "").split(/\s+/).map(Number);
    if (first === undefined || second === undefined || rest.length > 0 || Number.isNaN(first + second)) {
      return { error: `“${part.trim()}” is not ${what}` };
    }
    found.push(row(first, second));
  }
  return found;
}
