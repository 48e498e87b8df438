import { useCatalogue } from "../../api/queries";
import { useDesk } from "../../kit/context";
import { useShown } from "../../kit/fields";
import { Part } from "../../kit/layout";

/** The settings sheet: what to set on every controller for this bank. */
export function ToKeyIn() {
  const { view } = useDesk();
  const { data: choices } = useCatalogue();
  const show = useShown();
  const setting = view.report.store?.settings[0];
  const bank = view.document.store.bank;
  if (!setting || !bank) return null;
  const kind =
    choices?.chemistries.find((choice) => choice.value === bank.chemistry)?.label ?? bank.chemistry;
  const volts = (value: number | null) => (value === null ? "none" : `${value.toFixed(1)} V`);
  const rows = [
    ["Battery type (jumper or menu)", kind],
    [
      "Absorption",
      `${volts(setting.absorb_v)} for ${show(setting.absorb_h, "h")}, or until ${show(setting.tail_a, "A")}`,
    ],
    ["Float", volts(setting.float_v)],
    ["Equalise", setting.equalise_v === null ? "off" : `${volts(setting.equalise_v)}, by hand; stay with it`],
    ["Temperature compensation", setting.mv_per_k === 0 ? "off" : `${setting.mv_per_k.toFixed(0)} mV per K`],
    ["Disconnect loads at, reconnect at", `${volts(setting.low_v)}, ${volts(setting.back_v)}`],
    ["Load output", "always on (no dusk-to-dawn program)"],
  ];
  return (
    <Part
      title="Controller settings"
      note={`${setting.school}: ${setting.why}. The maker's data sheet has the last word.`}
    >
      <dl className="grid grid-cols-[1fr_1fr] gap-x-4">
        {rows.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="border-t border-hair2 py-1 text-ink2">{name}</dt>
            <dd className="border-t border-hair2 py-1">{value}</dd>
          </div>
        ))}
      </dl>
    </Part>
  );
}
