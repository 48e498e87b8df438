import { useState } from "react";
import { useDesk, useFigure } from "../../kit/context";
import { Disagreements } from "../../kit/Disagreements";
import { BigFigure } from "../../kit/layout";
import { Sections } from "../../kit/Sections";
import { TakeFromShelf } from "../shelf/FromShelf";
import { AsDone, BoxPart } from "./BoxPart";
import { Converters } from "./Converters";
import { LossWalk } from "./LossWalk";
import { OneLine } from "./OneLine";
import { OrderCards } from "./OrderCards";
import { PanelLeads } from "./PanelLeads";
import { Schedule } from "./Schedule";
import { ThroughTheYears } from "./ThroughTheYears";
import { WindowCheck } from "./WindowCheck";

export default function BusSheet() {
  const { view } = useDesk();
  const figure = useFigure();
  const { bus } = view.report;
  const [chosen, setChosen] = useState("");
  const walkable = bus.loads.filter((load) => load.walk.length > 0);
  const walked =
    walkable.find((load) => load.load_id === chosen) ??
    walkable.find((load) => load.load_id === bus.lowest_load) ??
    walkable[0];
  return (
    <Sections
      label="Wiring"
      sections={[
        {
          id: "volts",
          name: "Volts at each radio",
          page: (
            <>
              <p className="mb-3 text-[14px]">{bus.takeaway}</p>
              <WindowCheck walked={walked?.load_id ?? ""} onWalk={setChosen} />
              {walked && <LossWalk load={walked} />}
              <div className="mb-5 grid grid-cols-2 gap-4 sm:grid-cols-4">
                <BigFigure
                  of={figure(bus.lowest_v)}
                  label="at the lowest radio, transmitting at the lowest charge allowed"
                />
                <BigFigure
                  of={figure(bus.highest_power_w)}
                  label="transmit power it can reach, battery half charged"
                />
                <BigFigure of={figure(bus.main_peak_a)} label="from battery to bus, everything at once" />
                <BigFigure of={figure(bus.prospective_a)} label="into a short circuit at the battery posts" />
              </div>
              <ThroughTheYears />
            </>
          ),
        },
        {
          id: "wires",
          name: "Wires and fuses",
          page: (
            <>
              <Schedule />
              <PanelLeads />
              <TakeFromShelf of={["cable-", "fuse-"]} />
            </>
          ),
        },
        { id: "diagram", name: "Diagram", page: <OneLine /> },
        (bus.inverters.length > 0 || bus.converters.length > 0 || bus.changeovers.length > 0) && {
          id: "converters",
          name: "Converters",
          page: <Converters />,
        },
        {
          id: "box",
          name: "Box",
          page: (
            <div className="grid gap-x-8 lg:grid-cols-2">
              <AsDone />
              <BoxPart />
            </div>
          ),
        },
        { id: "order", name: "Order of work", page: <OrderCards /> },
        { id: "experts", name: "Experts disagree", page: <Disagreements step="bus" /> },
      ]}
    />
  );
}
