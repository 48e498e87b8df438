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
      note={life.limited_by === "cycles" ? "cycles end it first" : "age ends it first"}
    >
      <div className="mb-2 grid grid-cols-2 gap-4 sm:grid-cols-3">
        <BigFigure of={figure(life.years)} label="to expect of a new one" />
        <BigFigure of={figure(life.cycles_a_year)} label="cycles a year" />
        <BigFigure of={figure(store.care.weight_kg)} label="to carry" />
        {store.care.vent_cm2 && <BigFigure of={figure(store.care.vent_cm2)} label="vent, in and again out" />}
        {life.cost_per_kwh && <BigFigure of={figure(life.cost_per_kwh)} label="through the bank" />}
      </div>
      <p>
        By itself it loses <Figure of={figure(store.care.lost_month)} /> of its charge in a month.
      </p>
      <p>
        On the hottest day it comes to <Figure of={figure(store.hottest_c)} />
        {(figure(rehearsed?.locked_h)?.value ?? 0) > 0 && rehearsed?.locked_h && (
          <>
            ; it is too cold to be charged <Figure of={figure(rehearsed.locked_h)} /> a year
          </>
        )}
        .
      </p>
      {store.care.spark_mm && (
        <p>
          Nothing that sparks within <Figure of={figure(store.care.spark_mm)} /> of the cells.
        </p>
      )}
      {life.full_days && (
        <p>
          Full on <Figure of={figure(life.full_days)} /> of a typical year; at most{" "}
          <Figure of={figure(life.longest_not_full_d)} /> in a row without getting full.
        </p>
      )}
    </Part>
  );
}
