import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { useShown } from "../../kit/fields";
import { Heads, Part, Wide } from "../../kit/layout";

/** The leads from the panels to their controllers: what they carry and lose, and the conductor that suits them. */
export function PanelLeads() {
  const { view } = useDesk();
  const figure = useFigure();
  const show = useShown();
  const { leads } = view.report.bus;
  if (leads.length === 0) return null;
  return (
    <Part title="Leads from the panels" note="their length and conductor are entered in Panels">
      <Wide label="Length, conductor and loss of each panel lead">
        <table className="w-full md:min-w-[600px]">
          <thead>
            <Heads names={["Panels", "Length", "Conductor", "Proposed", "Carries", "Must stand", "Lost"]} />
          </thead>
          <tbody>
            {leads.map((lead) => (
              <tr key={lead.string_id} className="border-b border-hair2">
                <th scope="row" className="px-1.5 py-1 text-left font-normal">
                  {lead.name}
                </th>
                <td className="px-1.5 text-right">{show(lead.length_m, "m")}</td>
                <td className={`px-1.5 text-right ${lead.typed ? "" : "text-ink2"}`}>
                  {show(lead.mm2, "mm²")}
                </td>
                <td className="px-1.5 text-right">
                  <Figure of={figure(lead.proposed_mm2)} label="proposed" />
                </td>
                <td className="px-1.5 text-right">
                  <Figure of={figure(lead.amps)} label="carries" />
                </td>
                <td className="px-1.5 text-right">
                  <Figure of={figure(lead.must_carry_a)} label="must stand" />
                </td>
                <td className="px-1.5 text-right whitespace-nowrap">
                  <Figure of={figure(lead.lost_v)} label="volts lost" />{" "}
                  <Figure of={figure(lead.lost_share)} label="share lost" />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
    </Part>
  );
}
