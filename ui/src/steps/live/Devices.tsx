import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Trash2 } from "lucide-react";
import { type FormEvent, useState } from "react";
import { answer, client, Refusal } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";
import { useNow } from "./LiveLine";
import { ago, type LiveView } from "./useLive";

type NewEndpoint = components["schemas"]["NewEndpoint"];
const PROTOCOLS: [NewEndpoint["protocol"], string][] = [
  ["sunspec", "SunSpec over Modbus TCP"],
  ["telemetry", "Text lines (key=value) over TCP"],
  ["mqtt", "MQTT topic"],
];
const KINDS: [NewEndpoint["kind"], string][] = [
  ["monitor", "Battery monitor"],
  ["controller", "Charge controller"],
];
const EMPTY: NewEndpoint = {
  name: "",
  kind: "monitor",
  protocol: "sunspec",
  host: "",
  port: 502,
  unit: 1,
  topic: "",
};

function useChanged(): () => void {
  const cache = useQueryClient();
  return () => {
    void cache.invalidateQueries({ queryKey: ["live"] });
    void cache.invalidateQueries({ queryKey: ["live-all"] });
  };
}

function DeviceRow({ endpoint }: { endpoint: LiveView["endpoints"][number] }) {
  const changed = useChanged();
  const now = useNow();
  const remove = useMutation({
    mutationFn: () =>
      answer(client.DELETE("/api/devices/{device_id}", { params: { path: { device_id: endpoint.id } } })),
    onSuccess: changed,
  });
  return (
    <li className="flex flex-wrap items-baseline gap-x-4 border-b border-hair2 py-1.5">
      <b className="font-[640]">{endpoint.name}</b>
      <span className="text-ink2">
        {PROTOCOLS.find(([id]) => id === endpoint.protocol)?.[1]}, {endpoint.host}:{endpoint.port}
        {endpoint.topic && `, ${endpoint.topic}`}
        {endpoint.protocol === "sunspec" && endpoint.unit !== 1 && `, unit ${endpoint.unit}`}
      </span>
      <span className={endpoint.trouble ? "text-fix" : "text-ink2"}>
        {endpoint.trouble ||
          (endpoint.heard_at ? `last reading ${ago(endpoint.heard_at, now)}` : "not contacted yet")}
      </span>
      <button
        type="button"
        className="ml-auto p-1 text-ink2 hover:text-stop"
        aria-label={`Remove ${endpoint.name}`}
        title="Remove this device"
        onClick={() => remove.mutate()}
      >
        <Trash2 size={14} />
      </button>
    </li>
  );
}

function Choices<T extends string>(props: {
  label: string;
  value: T;
  values: [T, string][];
  onChange: (value: T) => void;
}) {
  return (
    <label className="block">
      <span className="label mb-0.5 block">{props.label}</span>
      <select
        className="field w-full"
        value={props.value}
        onChange={(event) => props.onChange(event.target.value as T)}
      >
        {props.values.map(([id, name]) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}

function Words(props: {
  label: string;
  value: string;
  fault: string | undefined;
  placeholder?: string;
  onChange: (value: string) => void;
}) {
  return (
    <label className="block">
      <span className="label mb-0.5 block">{props.label}</span>
      <input
        className="field w-full"
        value={props.value}
        placeholder={props.placeholder}
        autoComplete="off"
        aria-invalid={props.fault ? true : undefined}
        onChange={(event) => props.onChange(event.target.value)}
      />
      {props.fault && (
        <span role="alert" className="block text-[12px] text-stop">
          {props.fault}
        </span>
      )}
    </label>
  );
}

function AddDevice({ onDone }: { onDone: () => void }) {
  const { view } = useDesk();
  const changed = useChanged();
  const [asked, setAsked] = useState(EMPTY);
  const [port, setPort] = useState("502");
  const set = (part: Partial<NewEndpoint>) => setAsked((before) => ({ ...before, ...part }));
  const add = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/sites/{site_id}/endpoints", {
          params: { path: { site_id: view.site_id } },
          body: { ...asked, port: Number(port) },
        }),
      ),
    onSuccess: () => {
      changed();
      onDone();
    },
  });
  const faults = add.error instanceof Refusal ? add.error.problem.faults : [];
  const faultOf = (field: string) => faults.find((fault) => fault.pointer === `/${field}`)?.message;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    add.mutate();
  };
  return (
    <form onSubmit={submit} className="mt-3 grid max-w-[46rem] items-start gap-3 sm:grid-cols-3">
      <Words
        label="Device name"
        value={asked.name}
        fault={faultOf("name")}
        placeholder="Battery monitor"
        onChange={(name) => set({ name })}
      />
      <Choices label="Device type" value={asked.kind} values={KINDS} onChange={(kind) => set({ kind })} />
      <Choices
        label="Protocol"
        value={asked.protocol}
        values={PROTOCOLS}
        onChange={(protocol) => set({ protocol })}
      />
      <Words
        label="Host or address"
        value={asked.host}
        fault={faultOf("host")}
        placeholder="192.168.4.20"
        onChange={(host) => set({ host })}
      />
      <Words label="Port" value={port} fault={faultOf("port")} onChange={setPort} />
      {asked.protocol === "mqtt" && (
        <Words
          label="Topic"
          value={asked.topic ?? ""}
          fault={faultOf("topic")}
          placeholder="ridge/bank"
          onChange={(topic) => set({ topic })}
        />
      )}
      <div className="flex gap-2 sm:pt-5">
        <button type="submit" className="btn btn-primary btn-sm" disabled={add.isPending}>
          Connect
        </button>
        <button type="button" className="btn btn-sm btn-ghost" onClick={onDone}>
          Cancel
        </button>
      </div>
      {add.error && faults.length === 0 && (
        <p role="alert" className="text-stop sm:col-span-3">
          {(add.error as Error).message}
        </p>
      )}
      <p className="text-[12px] text-ink2 sm:col-span-3">
        Many of these devices have no password, so anyone on the internet could control them: keep them on a
        private network. Yonderstat only reads them, and only on this machine or a private network.
      </p>
    </form>
  );
}

/** The devices that are asked, and another one. */
export function Devices({ endpoints }: { endpoints: LiveView["endpoints"] }) {
  const [adding, setAdding] = useState(false);
  return (
    <>
      <ul aria-label="Devices">
        {endpoints.map((endpoint) => (
          <DeviceRow key={endpoint.id} endpoint={endpoint} />
        ))}
      </ul>
      {adding ? (
        <AddDevice onDone={() => setAdding(false)} />
      ) : (
        <button type="button" className="btn btn-sm btn-ghost text-act" onClick={() => setAdding(true)}>
          Add a device
        </button>
      )}
    </>
  );
}
