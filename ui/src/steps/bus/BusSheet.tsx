import { useState } from "react";
import { useDesk, useFigure } from "../../kit/context";
import { Disagreements } from "../../kit/Disagreements";
import { BigFigure } from "../../kit/layout";
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
    <>
      <p className="mb-3 text-[14px]">{bus.takeaway}</p>
      <div className="mb-5 grid grid-cols-2 gap-4 sm:grid-cols-4">
        <BigFigure of={figure(bus.lowest_v)} label="at the lowest set, keyed at the end" />
        <BigFigure of={figure(bus.highest_power_w)} label="it carries of that set, half used" />
        <BigFigure of={figure(bus.main_peak_a)} label="from post to bus at the worst moment" />
        <BigFigure of={figure(bus.prospective_a)} label="into a short at the posts" />
      </div>
      {walked && <LossWalk load={walked} />}
      <WindowCheck walked={walked?.load_id ?? ""} onWalk={setChosen} />
      <ThroughTheYears />
      <OneLine />
      <Schedule />
      <PanelLeads />
      <TakeFromShelf of={["cable-", "fuse-"]} />
      <Converters />
      <div className="grid gap-x-8 lg:grid-cols-2">
        <AsDone />
        <BoxPart />
      </div>
      <OrderCards />
      <Disagreements step="bus" />
    </>
  );
}
