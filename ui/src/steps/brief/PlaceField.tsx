import { useId, useState } from "react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../kit/context";
import { PlaceBox } from "../../kit/PlaceBox";
import { useDraft } from "../../kit/useDraft";

const degrees = (value: number) => value.toFixed(3).replace(/\.?0+$/, "");

/** Where it is: a locator, coordinates or a town, read by the server. */
export function PlaceField() {
  const id = useId();
  const { view, editor } = useDesk();
  const [refusal, setRefusal] = useState<{ text: string; message: string }>();
  const place = view.document.place;
  const settled = place ? `${degrees(place.latitude_deg)} ${degrees(place.longitude_deg)}` : "";
  const read = async (text: string) => {
    try {
      const found = await answer(client.GET("/api/place", { params: { query: { text } } }));
      setRefusal(undefined);
      const value = {
        latitude_deg: found.latitude_deg,
        longitude_deg: found.longitude_deg,
        elevation_m: null,
        time_zone: found.time_zone,
      };
      editor.edit({ kind: "set", path: ["place"], value });
    } catch (error) {
      setRefusal({ text, message: (error as Error).message });
    }
  };
  const settle = (text: string) => {
    if (text.trim() === "") {
      setRefusal(undefined);
      if (place) editor.edit({ kind: "set", path: ["place"], value: null });
    } else if (text !== settled) void read(text);
    return undefined;
  };
  const draft = useDraft(refusal?.text ?? settled, settle);
  return (
    <div>
      <label htmlFor={id} className="label mb-0.5 block">
        Place (locator, coordinates or town)
      </label>
      <PlaceBox
        id={id}
        text={draft.text}
        invalid={refusal !== undefined}
        near={view.document.place ?? undefined}
        onText={draft.change}
        onSettle={(text) => {
          if (text === draft.text) return draft.commit();
          draft.revert();
          settle(text);
        }}
        onEscape={() => {
          setRefusal(undefined);
          draft.revert();
        }}
      />
      <p id={`${id}-error`} role="alert" className="text-[12px] text-stop">
        {refusal?.message}
      </p>
      {place && !refusal && (
        <p className="text-[12px] text-ink2">
          {Math.abs(place.latitude_deg).toFixed(2)}° {place.latitude_deg < 0 ? "south" : "north"},{" "}
          {Math.abs(place.longitude_deg).toFixed(2)}° {place.longitude_deg < 0 ? "west" : "east"}
        </p>
      )}
    </div>
  );
}
