import { useQuery } from "@tanstack/react-query";
import { useId, useState } from "react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../kit/context";
import { useUnits } from "../../kit/settings";
import { readQuantity } from "../../kit/units";

/** A resting reading typed in; the server says what it can mean. */
export function RestReading() {
  const id = useId();
  const { view } = useDesk();
  const units = useUnits();
  const [text, setText] = useState("");
  const [rested, setRested] = useState(true);
  const read = readQuantity(text, "volts", units);
  const volts = text !== "" && "value" in read ? String(read.value) : undefined;
  const { data, error } = useQuery({
    queryKey: ["rest", view.id, view.revision, volts, rested],
    enabled: volts !== undefined,
    queryFn: () =>
      answer(
        client.GET("/api/designs/{design_id}/rest", {
          params: {
            path: { design_id: view.id },
            query: { volts: volts ?? "", rested: rested ? "yes" : "no" },
          },
        }),
      ),
  });
  const told = volts
    ? (error?.message ?? data?.words)
    : text !== "" && "error" in read
      ? read.error
      : undefined;
  return (
    <div className="mb-3">
      <label htmlFor={id} className="label mb-0.5 block">
        Battery volts at rest
      </label>
      <div className="flex flex-wrap items-center gap-3">
        <input
          id={id}
          className="field w-28"
          placeholder="12.4 V"
          autoComplete="off"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={rested}
            onChange={(event) => setRested(event.target.checked)}
          />
          has rested, with no charging and no load
        </label>
        <p aria-live="polite">{told}</p>
      </div>
      {data && volts && data.high_share > data.low_share && (
        <div className="mt-2 h-3 w-full max-w-sm bg-hair2" aria-hidden="true">
          <div
            className="h-full bg-store/75"
            style={{
              marginLeft: `${data.low_share * 100}%`,
              width: `${(data.high_share - data.low_share) * 100}%`,
            }}
          />
        </div>
      )}
    </div>
  );
}
