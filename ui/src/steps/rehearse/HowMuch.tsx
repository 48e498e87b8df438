import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { useNavigate } from "react-router";
import { answer, client } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { useDesk } from "../../kit/context";
import { useShown } from "../../kit/fields";
import { freshKey } from "../../kit/freshKey";
import { Part } from "../../kit/layout";
import { PlainSelect } from "../../kit/PlainSelect";
import { MapFront } from "./MapFront";
import { MapGrid } from "./MapGrid";
import { SmallMaps } from "./SmallMaps";
import { TiltSlider } from "./TiltSlider";
import { type MapAsk, type SizingMap, useSizingMap } from "./useSizingMap";

type Form = {
  controller: "" | "pwm" | "mppt";
  chemistry: NonNullable<MapAsk["chemistry"]> | "";
  panel: string;
  bank: string;
  room: string;
  budget: string;
};
const money = (text: string) =>
  text.trim() === "" || /^\d+(\.\d+)?$/.test(text.trim()) || "type a number, such as 1.20";
const CONTROLLERS = [
  { value: "", label: "as now" },
  { value: "pwm", label: "all PWM" },
  { value: "mppt", label: "all MPPT" },
];

/** The answer in words, and the cheapest point as a design of its own. */
function Answer({ map, late }: { map: SizingMap; late: boolean }) {
  const { view } = useDesk();
  const show = useShown();
  const cache = useQueryClient();
  const navigate = useNavigate();
  const build = async () => {
    const made = await answer(
      client.POST("/api/sites/{site_id}/designs", {
        params: { path: { site_id: view.site_id }, header: { "Idempotency-Key": freshKey() } },
        body: { copy_of: view.id, patch: map.patch },
      }),
    );
    await cache.invalidateQueries({ queryKey: ["site", view.site_id] });
    navigate(`/designs/${made.id}/rehearse`);
  };
  const enough = [
    ...(map.enough_watts ? [`${show(map.enough_watts, "W")} with your present battery`] : []),
    ...(map.enough_ah ? [`${show(map.enough_ah, "A·h")} with your present panels`] : []),
  ];
  return (
    <div className="mb-3">
      <p className="text-[14px]" aria-live="polite">
        {map.sentence}
      </p>
      {map.here.share < map.target && enough.length > 0 && (
        <p className="mt-1">
          If our sun and power-use guesses are exactly right, you need {enough.join(", or ")}.
        </p>
      )}
      {map.best_for_sum && (
        <p className="mt-1">
          Best size for your budget: {show(map.best_for_sum.watts, "W")} and{" "}
          {show(map.best_for_sum.amp_hours, "A·h")}. They reach {(map.best_for_sum.share * 100).toFixed(1)} %
          of {map.share_of}.
        </p>
      )}
      {map.priced && (
        <p className="mt-1 text-[12px] text-ink2">
          Prices in {map.currency || "your money"}
          {map.priced_on && `, ${map.priced_on}`}.
        </p>
      )}
      {map.cheapest && map.patch.length > 0 && (
        <button type="button" className="btn btn-sm mt-2" disabled={late} onClick={build}>
          Create a design with this size
        </button>
      )}
    </div>
  );
}

/** What is asked of the map; a field that is not a number is left out until it is one. */
function askOf(form: Form, tilt: number | null): MapAsk {
  const given = (text: string) => (money(text) === true && text.trim() !== "" ? Number(text) : null);
  return {
    tilt_deg: tilt,
    controller: form.controller || null,
    chemistry: form.chemistry || null,
    panel_price_per_w: given(form.panel),
    bank_price_per_ah: given(form.bank),
    most_w: given(form.room) || null,
    budget: given(form.budget),
  };
}

/** How big must it be?: drawn at once, drawn again as what is asked changes. */
export function HowMuch() {
  const { view } = useDesk();
  const { data: choices } = useCatalogue();
  const [tilt, setTilt] = useState<number | null>(null);
  const { register, watch, formState } = useForm<Form>({
    mode: "onChange",
    defaultValues: { controller: "", chemistry: "", panel: "", bank: "", room: "", budget: "" },
  });
  const ask = askOf(watch(), tilt);
  const { map, impossible, refining, late, error } = useSizingMap(ask);
  const currency = view.document.brief.currency ? `, ${view.document.brief.currency}` : "";
  const field = (id: "panel" | "bank" | "room" | "budget", label: string) => (
    <div>
      <label htmlFor={`map-${id}`} className="label mb-0.5 block">
        {label}
      </label>
      <input
        id={`map-${id}`}
        className="field"
        inputMode="decimal"
        aria-invalid={formState.errors[id] ? true : undefined}
        aria-describedby={`map-${id}-error`}
        {...register(id, { validate: money })}
      />
      <p id={`map-${id}-error`} role="alert" className="text-[12px] text-stop">
        {formState.errors[id]?.message}
      </p>
    </div>
  );
  return (
    <Part title="How big must it be?" note="panels and battery: every size simulated over ten weather years">
      <form aria-label="Sizing map" className="mb-3" onSubmit={(event) => event.preventDefault()}>
        <div className="mb-3 grid grid-cols-2 gap-3 sm:grid-cols-4">
          <TiltSlider tilt={tilt} onChange={setTilt} />
          <PlainSelect
            id="map-controller"
            label="Controllers"
            choices={CONTROLLERS}
            {...register("controller")}
          />
          <PlainSelect
            id="map-chemistry"
            label="Chemistry"
            choices={[{ value: "", label: "as now" }, ...(choices?.chemistries ?? [])]}
            {...register("chemistry")}
          />
          {field("room", "Space for panels, W")}
          {field("panel", `Panel price per watt${currency}`)}
          {field("bank", `Battery price per amp-hour${currency}`)}
          {field("budget", `Budget${currency}`)}
        </div>
      </form>
      {error && (
        <p role="alert" className="mb-2 text-stop">
          {error.message}
        </p>
      )}
      {impossible && (
        <p role="alert">
          To draw this map we need a location with sun data, a battery and at least one panel.
        </p>
      )}
      {!map && !impossible && !error && <p aria-live="polite">Simulating the sizes…</p>}
      {map && (
        <div aria-busy={refining} className={late ? "opacity-60" : undefined}>
          <Answer map={map} late={late} />
          <MapGrid key={`${map.panels.length} ${map.batteries.length}`} map={map} />
          <MapFront map={map} />
          <SmallMaps ask={ask} />
        </div>
      )}
    </Part>
  );
}
