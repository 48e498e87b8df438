import { useId } from "react";
import { PlainSelect } from "../../kit/PlainSelect";
import type { Moment, Session, Start } from "./useCheck";

type Props = {
  start: Start;
  session: Session;
  moment: Moment;
  onChange: (part: Partial<Session>) => void;
};

/** What is noticed, in the words people have for it; what is dangerous says first what to do. */
export function Symptoms({ start, session, moment, onChange }: Props) {
  const id = useId();
  const found = start.symptoms.find((item) => item.id === session.symptom);
  const choose = (symptom: string, of: string) => {
    const next = start.symptoms.find((item) => item.id === symptom);
    const at = of || next?.loads[0]?.id || "";
    onChange({ symptom, of: at, moment: { ...moment, keyed: next?.keyed ? at : (moment.keyed ?? "") } });
  };
  return (
    <div className="my-3 flex flex-wrap items-end gap-3">
      <PlainSelect
        id={`${id}-what`}
        label="What do you notice?"
        value={session.symptom}
        choices={[
          { value: "", label: "Nothing, I only check a reading" },
          ...start.symptoms.map((item) => ({ value: item.id, label: item.label })),
        ]}
        onChange={(event) => choose(event.target.value, "")}
      />
      {found && found.loads.length > 1 && (
        <PlainSelect
          id={`${id}-of`}
          label="At which?"
          value={session.of}
          choices={found.loads.map(({ id: value, name }) => ({ value, label: name }))}
          onChange={(event) => choose(session.symptom, event.target.value)}
        />
      )}
      {found?.stop && (
        <p role="alert" className="basis-full border-l-3 border-stop pl-3 font-[640]">
          {found.stop}
        </p>
      )}
    </div>
  );
}
