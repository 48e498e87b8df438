import type { Choice } from "../../api/client";
import { useField } from "../../kit/context";
import { type BusRun, type RunFigures, runPath } from "./run";

type Fuse = NonNullable<BusRun["fuse"]>;
const USUAL = { rating_a: null, dc_v: null, interrupt_a: null, from_start_m: null, lead: "plus" as const };

/** The kind of fuse of a run; until one is chosen, the one that is proposed. */
export function FuseKindField({ run, choices }: { run: RunFigures; choices: Choice[] | undefined }) {
  const field = useField<Fuse | null | undefined>([...runPath(run.id), "fuse"]);
  const fuse = field.value;
  const choose = (kind: string) =>
    field.set(kind === "" ? null : { ...USUAL, ...fuse, kind: kind as Fuse["kind"] });
  return (
    <select
      className={`cell w-28 ${fuse ? "" : "text-ink2 italic"}`}
      aria-label={`${run.name}: fuse`}
      aria-invalid={field.fault ? true : undefined}
      title={field.fault ?? (fuse ? undefined : "Proposed. Choose the kind you have.")}
      value={fuse?.kind ?? ""}
      onChange={(event) => choose(event.target.value)}
    >
      <option value="">{run.fuse_typed ? "as proposed" : run.fuse_label}</option>
      {choices?.map((choice) => (
        <option key={choice.value} value={choice.value}>
          {choice.label}
        </option>
      ))}
    </select>
  );
}
