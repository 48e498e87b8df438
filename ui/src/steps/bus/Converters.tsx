import { Cautions } from "../../kit/Cautions";
import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { Part, Wide } from "../../kit/layout";

function Inverters() {
  const { view } = useDesk();
  const figure = useFigure();
  return view.report.bus.inverters.map((item) => (
    <li key={item.rail_id} className="mb-2">
      <strong className="font-[640]">{item.name}</strong>: takes{" "}
      <Figure of={figure(item.input_a)} label="input at low volts" /> on a low battery,{" "}
      <Figure of={figure(item.surge_a)} label="surge" /> for a moment. It shuts down at{" "}
      {item.least_v.toFixed(1)} V. Connect it through{" "}
      <Figure of={figure(item.precharge_ohm)} label="pre-charge resistor" /> for{" "}
      <Figure of={figure(item.precharge_s)} label="pre-charge time" />. The resistor must absorb{" "}
      <Figure of={figure(item.precharge_j)} label="pre-charge energy" />.
      {item.waveform === "stepped" &&
        " It makes a stepped wave. Some chargers and motors dislike that, and some radios hum."}
    </li>
  ));
}

function Dc() {
  const { view } = useDesk();
  const figure = useFigure();
  return view.report.bus.converters.map((item) => (
    <li key={item.rail_id} className="mb-2">
      <strong className="font-[640]">{item.name}</strong>: {item.converter}, works from{" "}
      {item.least_v.toFixed(1)} to {item.most_v.toFixed(1)} V and gets at least{" "}
      <Figure of={figure(item.lowest_v)} label="lowest at its input" />.
    </li>
  ));
}

function Changeovers() {
  const { view } = useDesk();
  const figure = useFigure();
  const options = view.report.bus.changeovers;
  if (options.length === 0) return null;
  return (
    <Part title="Switching between mains and battery" note="the ways to do it, with this wiring">
      <Wide label="Ways to change over">
        <table className="w-full md:min-w-[720px]">
          <thead>
            <tr className="border-b border-hair text-[12px] text-ink2">
              {["", "Volts lost at peak", "Power gap", "Current flowing back", "Charges", "Limit"].map(
                (name) => (
                  <th key={name} scope="col" className="px-1.5 text-left font-normal">
                    {name}
                  </th>
                ),
              )}
            </tr>
          </thead>
          <tbody>
            {options.map((option) => (
              <tr
                key={option.id}
                className={`border-b border-hair2 align-top ${option.used ? "bg-actsoft" : ""}`}
              >
                <th scope="row" className="px-1.5 py-1 text-left font-normal">
                  {option.label}
                  {option.used && <span className="block text-[12px] text-ink2">yours now</span>}
                </th>
                <td className="px-1.5 py-1">
                  <Figure of={figure(option.lost_v)} />
                </td>
                <td className="px-1.5 py-1 whitespace-nowrap">
                  {option.gap_ms ? `${option.gap_ms} ms` : "none"}
                </td>
                <td className="px-1.5 py-1">{option.back_feed}</td>
                <td className="px-1.5 py-1">{option.charges}</td>
                <td className="px-1.5 py-1">{option.limit}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
    </Part>
  );
}

/** Converters, inverters and the changeover on the bus. */
export function Converters() {
  const { view } = useDesk();
  const { inverters, converters } = view.report.bus;
  return (
    <>
      {inverters.length + converters.length > 0 && (
        <Part
          title="Converters and inverters"
          note="voltage range, current on a low battery, and how to connect them"
        >
          <Cautions step="bus" at="converters" />
          <ul>
            <Inverters />
            <Dc />
          </ul>
        </Part>
      )}
      <Changeovers />
    </>
  );
}
