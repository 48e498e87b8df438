const [WIDTH, HEIGHT] = [120, 26];

/** State of charge over the last days as a line, empty at the foot and full at the head. */
export function Trend({ shares }: { shares: readonly number[] }) {
  if (shares.length < 2) return null;
  const points = shares.map(
    (share, index) => `${(index / (shares.length - 1)) * WIDTH},${HEIGHT - share * HEIGHT}`,
  );
  const [first, last] = [shares[0] ?? 0, shares.at(-1) ?? 0];
  const way = last - first > 0.02 ? "rising" : last - first < -0.02 ? "falling" : "steady";
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="h-[26px] w-[120px]"
      role="img"
      aria-label={`State of charge over three days: ${way}, from ${Math.round(100 * first)} to ${Math.round(100 * last)} %`}
    >
      <path d={`M0 ${HEIGHT - 0.5}H${WIDTH}M0 0.5H${WIDTH}`} className="stroke-hair" strokeWidth="1" />
      <polyline points={points.join(" ")} className="fill-none stroke-store" strokeWidth="1.6" />
    </svg>
  );
}
