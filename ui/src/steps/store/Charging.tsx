import { useQuery } from "@tanstack/react-query";
import { useId, useState } from "react";
import { answer, client } from "../../api/client";
import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { useShown } from "../../kit/fields";
import { Part, Wide } from "../../kit/layout";
import { useUnits } from "../../kit/settings";
import { readQuantity } from "../../kit/units";

/** A charger and a state to start from, asked of the server. */
function AskCharge() {
  const id = useId();
  const { view } = useDesk();
  const units = useUnits();
  const [amps, setAmps] = useState("");
  const [from, setFrom] = useState("50");
  const current = readQuantity(amps, "amps", units);
  const share = readQuantity(from, "share", units);
  const ready = amps !== "" && "value" in current && "value" in share;
  const query = ready ? { amps: String(current.value), from_share: String(share.value) } : undefined;
  const { data, error } = useQuery({
    queryKey: ["charge", view.id, view.revision, query],
    enabled: ready,
    queryFn: () =>
      answer(
        client.GET("/api/designs/{design_id}/charge", {
          params: { path: { design_id: view.id }, query: query ?? { amps: "", from_share: "" } },
        }),
      ),
  });
  const told = ready
    ? (error?.message ?? data?.words)
    : amps === ""
      ? undefined
      : "error" in current
        ? current.error
        : "error" in share
          ? share.error
          : undefined;
  return (
    <div className="mt-2 flex flex-wrap items-end gap-3">
      <div>
        <label htmlFor={`${id}-a`} className="label mb-0.5 block">
          Charger amps
        </label>
        <input
          id={`${id}-a`}
          className="field w-24"
          placeholder="20 A"
          value={amps}
          onChange={(event) => setAmps(event.target.value)}
        />
      </div>
      <div>
        <label htmlFor={`${id}-f`} className="label mb-0.5 block">
          from charge, %
        </label>
        <input
          id={`${id}-f`}
          className="field w-20"
          value={from}
          onChange={(event) => setFrom(event.target.value)}
        />
      </div>
      <p className="pb-1.5" aria-live="polite">
        {told}
      </p>
    </div>
  );
}

/** How long filling takes, and what to key into the charger. */
export function Charging() {
  const { view } = useDesk();
  const figure = useFigure();
  const show = useShown();
  const store = view.report.store;
  if (!store) return null;
  return (
    <>
      <Part title="Time to recharge" note="from the lowest charge allowed, in the worst month">
        <table className="w-full">
          <tbody>
            {store.charging.map((row) => (
              <tr key={row.name} className="border-t border-hair2 first:border-0">
                <th scope="row" className="py-1 text-left font-normal">
                  {row.name}
                </th>
                <td className="text-right">
                  <Figure of={figure(row.amps)} />
                </td>
                <td className="text-right">
                  {figure(row.hours)?.value === null ? (
                    <span className="text-stop">{figure(row.hours)?.note}</span>
                  ) : (
                    <Figure of={figure(row.hours)} />
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <AskCharge />
      </Part>
      <Part
        title="Charge settings"
        note="set these in your controller; advice differs, your choice comes first"
      >
        <Wide label="Charge settings as a table">
          <table className="w-full min-w-[34rem]">
            <thead>
              <tr className="text-[12px] text-ink2">
                {[
                  "Charging style",
                  "Absorb",
                  "for",
                  "until",
                  "Float",
                  "Equalise",
                  "per K",
                  "Cut off",
                  "Back on",
                ].map((name) => (
                  <th key={name} scope="col" className="text-right font-normal first:text-left">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {store.settings.map((row) => (
                <tr key={row.school} className={`border-t border-hair2 ${row.is_chosen ? "font-[640]" : ""}`}>
                  <th scope="row" className="py-1 text-left font-[inherit]">
                    {row.school}
                    <span className="block text-[12px] font-normal text-ink2">{row.why}</span>
                  </th>
                  <td className="text-right">{row.absorb_v.toFixed(1)} V</td>
                  <td className="text-right">{show(row.absorb_h, "h")}</td>
                  <td className="text-right">{show(row.tail_a, "A")}</td>
                  <td className="text-right">
                    {row.float_v === null ? "none" : `${row.float_v.toFixed(1)} V`}
                  </td>
                  <td className="text-right">
                    {row.equalise_v === null ? "never" : `${row.equalise_v.toFixed(1)} V`}
                  </td>
                  <td className="text-right">{row.mv_per_k === 0 ? "0" : `${row.mv_per_k.toFixed(0)} mV`}</td>
                  <td className="text-right">{row.low_v.toFixed(1)} V</td>
                  <td className="text-right">{row.back_v.toFixed(1)} V</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Wide>
        {store.settings[0] && (
          <p className="mt-1">
            Two schools for the cut-off. At <Figure of={figure(store.end_mean_v)} label="the planned end" />{" "}
            under the usual load it keeps to the planned depth: dark sooner, and the battery lasts. At{" "}
            {store.settings[0].low_v.toFixed(1)} V it only guards against ruin: the station stays up longer,
            at the battery’s cost.
          </p>
        )}
        {store.settings[0] && store.settings[0].mv_per_k !== 0 && (
          <p className="mt-1">
            With a temperature sensor on the battery, absorption in the worst month's cold is{" "}
            {store.settings[0].absorb_cold_v.toFixed(2)} V. The maker's data sheet has the last word.
          </p>
        )}
      </Part>
    </>
  );
}
