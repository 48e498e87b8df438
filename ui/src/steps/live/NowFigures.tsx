import type { ReactNode } from "react";
import { useShown } from "../../kit/fields";
import { useNow } from "./LiveLine";
import { ago, clockTime, type Now, type Reader } from "./useLive";

function Measured({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="min-w-0">
      <dd className="text-[28px] leading-8 font-[640]">{children}</dd>
      <dt className="text-[12px] text-ink2">{label}</dt>
    </div>
  );
}

type Props = { now: Now; reader: Reader; zone: string | null | undefined; speed: number };

/** What the site said last, and when, by its clock and by ours. */
export function NowFigures({ now, reader, zone, speed }: Props) {
  const show = useShown();
  const wall = useNow();
  const watts = (amps: number | null) =>
    amps === null || now.volts === null ? null : Math.round(amps * now.volts);
  return (
    <section aria-label="Now" className="mb-5">
      <dl className="flex flex-wrap gap-x-8 gap-y-2">
        <Measured label="state of charge">{show(now.charge_share, "share")}</Measured>
        <Measured label="at the battery">{show(now.volts, "V")}</Measured>
        <Measured label={`charging, ${show(watts(now.charge_a), "W")}`}>{show(now.charge_a, "A")}</Measured>
        <Measured label={`drawn, ${show(watts(now.load_a), "W")}`}>{show(now.load_a, "A")}</Measured>
        <Measured label="in the box">{show(now.box_c, "°C")}</Measured>
      </dl>
      <p className="mt-1 text-[12px] text-ink2">
        {clockTime(now.device_at, zone)} site time; last reading {ago(now.heard_at, wall)}.
        {speed > 1 && ` This is a simulator: its clock runs ${speed} times faster than real time.`}
        {reader.waiting > 0 && ` ${reader.waiting} readings are waiting to be stored.`}
      </p>
    </section>
  );
}
