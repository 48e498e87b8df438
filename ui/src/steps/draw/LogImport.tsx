import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import { shortNumber } from "../../kit/units";
import { type LogState, type OverLength, type Proposal, useContactLog } from "./useContactLog";

const MODE: Record<string, string> = { ssb: "SSB speech", cw: "CW", fm: "FM", data: "Data" };

function Overs({ overs, onChange }: { overs: OverLength[]; onChange: (overs: OverLength[]) => void }) {
  const set = (mode: string, field: "over_s" | "overs", text: string) => {
    const value = Number(text.replace(",", "."));
    if (Number.isFinite(value) && value >= 0) {
      onChange(overs.map((item) => (item.mode === mode ? { ...item, [field]: value } : item)));
    }
  };
  return (
    <table className="mt-2">
      <caption className="text-left text-[12px] text-ink2">
        We assume this many overs per contact, by mode. Correct them to match your operating.
      </caption>
      <thead className="text-[12px] text-ink2">
        <tr>
          <th scope="col" className="w-28 text-left font-normal">
            Mode
          </th>
          <th scope="col" className="w-28 text-right font-normal">
            Seconds per over
          </th>
          <th scope="col" className="w-28 text-right font-normal">
            overs per contact
          </th>
        </tr>
      </thead>
      <tbody>
        {overs.map((item) => (
          <tr key={item.mode}>
            <th scope="row" className="text-left font-normal">
              {MODE[item.mode]}
            </th>
            {(["over_s", "overs"] as const).map((field) => (
              <td key={field}>
                <input
                  className="cell text-right"
                  aria-label={`${MODE[item.mode]}: ${field === "over_s" ? "seconds of an over" : "overs a contact"}`}
                  defaultValue={item[field]}
                  onBlur={(event) => set(item.mode, field, event.target.value)}
                />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Proposed({ proposal }: { proposal: Proposal }) {
  return (
    <>
      <p>
        {proposal.contacts} contacts in {proposal.days} {proposal.days === 1 ? "day" : "days"}.
        {` ${proposal.by_band
          .slice(0, 6)
          .map((item) => `${item.band} ${MODE[item.mode]} ${item.contacts}`)
          .join(", ")}${proposal.by_band.length > 6 ? " and others" : ""}.`}
        {proposal.unplaced > 0 && ` ${proposal.unplaced} on bands that no radio in this design covers.`}
      </p>
      <ul className="mt-1">
        {proposal.loads.map((load) => (
          <li key={load.load_id}>
            <b className="font-[640]">{load.name}</b>: {shortNumber(load.hours_per_day)} h a day on the air,
            transmitting {shortNumber(load.transmit_share * 100)} % of that time; busiest at{" "}
            {load.by_hour.indexOf(Math.max(...load.by_hour))} h UTC
          </li>
        ))}
      </ul>
    </>
  );
}

function MalformedList({ state }: { state: Extract<LogState, { kind: "read" }> }) {
  if (state.malformedCount === 0) return null;
  return (
    <details className="mt-2 text-[12px]">
      <summary className="cursor-pointer text-fix">
        {state.malformedCount === 1 ? "1 record" : `${state.malformedCount} records`} skipped: not readable
      </summary>
      <ul>
        {state.malformed.map((item) => (
          <li key={item.record}>
            record {item.record} {item.why}
          </li>
        ))}
      </ul>
    </details>
  );
}

/** From the operator's own contact log to a tempo, applied only when accepted. */
export function LogImport() {
  const { view, editor } = useDesk();
  const { state, read, stop, propose } = useContactLog(view.id);
  const accept = (proposal: Proposal) => {
    const others = view.document.draw.tempos.filter((tempo) => tempo.id !== proposal.tempo.id);
    editor.edit(
      { kind: "set", path: ["draw", "tempos"], value: [...others, proposal.tempo] },
      { kind: "set", path: ["draw", "sized_on"], value: proposal.tempo.id },
    );
    stop();
  };
  return (
    <Part
      title="Hours from your contact log"
      note="reads an ADIF file (.adi or .adx) and proposes an activity level; the file stays on this machine"
    >
      <input
        type="file"
        accept=".adi,.adif,.adx"
        aria-label="Contact log file"
        className="file-picker text-[12px]"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void read(file);
          event.target.value = "";
        }}
      />
      {state.kind === "reading" && (
        <p role="status" className="mt-2 flex items-center gap-3">
          <progress value={state.share} aria-label="Reading the log" /> {Math.round(state.share * 100)} %
          <button type="button" className="btn btn-xs" onClick={stop}>
            Stop
          </button>
        </p>
      )}
      {state.kind === "failed" && (
        <p role="alert" className="mt-2 text-stop">
          {state.message}
        </p>
      )}
      {state.kind === "read" && (
        <div className="mt-2">
          <Proposed proposal={state.proposal} />
          <Overs overs={state.overs} onChange={(overs) => void propose(overs)} />
          <MalformedList state={state} />
          <p className="mt-2 flex gap-2">
            <button
              type="button"
              className="btn btn-sm btn-primary"
              disabled={state.proposal.loads.length === 0}
              onClick={() => accept(state.proposal)}
            >
              Use “{state.proposal.tempo.name}” for sizing
            </button>
            <button type="button" className="btn btn-sm btn-ghost" onClick={stop}>
              Cancel
            </button>
          </p>
        </div>
      )}
    </Part>
  );
}
