import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { BigFigure, Part } from "../../kit/layout";

/** Years to expect, weight to lift, air to give. */
export function LifeAndCare() {
  const { view } = useDesk();
  const figure = useFigure();
  const { store, life, rehearsed } = view.report;
  if (!store || !life) return null;
  return (
    <Part
      title="Life and care"
      note={life.limited_by === "cycles" ? "cycling wears it out first" : "old age comes first"}
    >
      <div className="mb-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <BigFigure of={figure(life.years)} label="expected life of a new one" />
        <BigFigure of={figure(life.cycles_a_year)} label="cycles a year" />
        <BigFigure of={figure(store.care.weight_kg)} label="weight" />
        {store.care.vent_cm2 && (
          <BigFigure of={figure(store.care.vent_cm2)} label="vent opening, for inlet and for outlet" />
        )}
        {life.cost_per_kwh && (
          <BigFigure of={figure(life.cost_per_kwh)} label="per kWh through the battery" />
        )}
      </div>
      <p>
        Standing unused, it loses <Figure of={figure(store.care.lost_month)} /> of its charge a month.
      </p>
      <p>
        On the hottest day it reaches <Figure of={figure(store.hottest_c)} />
        {(figure(rehearsed?.locked_h)?.value ?? 0) > 0 && rehearsed?.locked_h && (
          <>
            ; it is too cold to be charged <Figure of={figure(rehearsed.locked_h)} /> a year
          </>
        )}
        .
      </p>
      {store.care.spark_mm && (
        <p>
          The gas can explode: keep everything that sparks at least{" "}
          <Figure of={figure(store.care.spark_mm)} /> from the cells.
        </p>
      )}
      {life.full_days && (
        <p>
          It gets full on <Figure of={figure(life.full_days)} /> of a typical year. The longest time without
          getting full is <Figure of={figure(life.longest_not_full_d)} />.
          <Figure of={figure(life.longest_not_full_d)} /> in a row without getting full.
        </p>
      )}
    </Part>
  );
}
