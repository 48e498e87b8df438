import type { Finding } from "../api/client";

/**
 * Findings in their order, those that say the same of several things as one: where the first of them stands. What
 * somebody lives with does not come together with what nobody does.
 */
export function toldTogether(findings: readonly Finding[]): Finding[][] {
  const groups = new Map<string, Finding[]>();
  for (const finding of findings) {
    const { alike, step, severity, muted, id } = finding;
    const key = alike ? [alike, step, severity, muted !== ""].join("\n") : id;
    groups.set(key, [...(groups.get(key) ?? []), finding]);
  }
  return [...groups.values()];
}

/** What a group says: of several things what they share, of one its own sentence. */
export const headOf = (group: readonly Finding[]): string =>
  (group.length > 1 ? group[0]?.alike : group[0]?.sentence) ?? "";

/** How many there are to be told that somebody might mend. */
export const openOf = (findings: readonly Finding[]): number =>
  toldTogether(findings.filter((finding) => finding.severity !== "good" && !finding.muted)).length;
