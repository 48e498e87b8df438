import type { Finding } from "../api/client";

export type Severity = Finding["severity"];
export const SEVERITY_NAME: Record<Severity, string> = {
  stop: "Stop",
  fix: "Fix",
  mind: "Note",
  good: "Good",
};

/** A finding's severity by shape first, word second, colour third. */
export function Mark({ of }: { of: Severity }) {
  const shape = {
    stop: <rect x="1.5" y="1.5" width="9" height="9" fill="currentColor" />,
    fix: (
      <>
        <path d="M6 0.8 11.2 6 6 11.2 0.8 6Z" fill="none" stroke="currentColor" strokeWidth="1.2" />
        <path d="M6 0.8 11.2 6H0.8Z" fill="currentColor" />
      </>
    ),
    mind: <circle cx="6" cy="6" r="4.4" fill="none" stroke="currentColor" strokeWidth="1.5" />,
    good: <path d="M1.5 6.5 4.6 9.6 10.6 2.6" fill="none" stroke="currentColor" strokeWidth="1.8" />,
  }[of];
  const colour = { stop: "text-stop", fix: "text-fix", mind: "text-mind", good: "text-good" }[of];
  return (
    <svg viewBox="0 0 12 12" width="12" height="12" className={`shrink-0 ${colour}`} role="img">
      <title>{SEVERITY_NAME[of]}</title>
      {shape}
    </svg>
  );
}

const ORDER: Severity[] = ["stop", "fix", "mind", "good"];

/** The worst of some findings that is not good news, if there is one. */
export function worstOf(findings: Finding[]): Severity | undefined {
  const worst = ORDER.find((severity) =>
    findings.some((finding) => finding.severity === severity && !finding.muted),
  );
  return worst === "good" ? undefined : worst;
}
