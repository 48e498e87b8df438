/** A bank to start from: one 100 Ah AGM unit, every figure a guess. */
export const FIRST_BANK = {
  chemistry: "agm",
  unit_v: 12,
  unit_ah: { value: 100, basis: "default" },
  hour_rate_h: 20,
  series: 1,
  parallel: 1,
  health: { value: 1, basis: "default" },
  depth: null,
  housing: "indoors",
  cold_c: null,
} as const;
