import { useMutation } from "@tanstack/react-query";
import { useForm } from "react-hook-form";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema";
import { useAside, useDesk } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { Part } from "../../kit/layout";
import { PlainSelect } from "../../kit/PlainSelect";
import { MONTH_CHOICES, SKIES, type Sky, wholeNumber } from "./sceneForm";

type Form = { month: string; day: string; days: string; sky: Sky; start: string; vital: boolean };
type Report = components["schemas"]["RationReport"];

function Table({ report, prefix }: { report: Report; prefix: string }) {
  const figure = useAside(report.working, prefix);
  return (
    <>
      <p className="mb-2 text-[14px]">
        <b className="font-[640]">{report.sentence}</b> You can use{" "}
        <Figure of={figure(report.watt_hours_a_day)} /> a day in total.
      </p>
      <table className="w-full max-w-[36rem]">
        <thead>
          <tr className="text-[12px] text-ink2">
            <th scope="col" className="text-left font-normal">
              Transmit power
            </th>
            <th scope="col" className="text-right font-normal">
              Listening per day, without transmitting
            </th>
            <th scope="col" className="text-right font-normal">
              Transmitting per day, radios on as planned
            </th>
          </tr>
        </thead>
        <tbody>
          {report.rows.map((row) => (
            <tr key={row.watts} className="border-t border-hair2">
              <th scope="row" className="py-1 text-left font-normal">
                {row.watts} W
              </th>
              <td className="text-right">
                <Asked of={figure(row.listening_h)} />
              </td>
              <td className="text-right">
                <Asked of={figure(row.key_min)} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-[12px] text-ink2">
        {report.sets.join(", ")}: each radio may listen that long. The transmit minutes are for all radios
        together. Everything else runs as planned.
      </p>
    </>
  );
}

/** A figure that may not be: then even none of it is too much. */
function Asked({ of }: { of: ReturnType<ReturnType<typeof useAside>> }) {
  return of?.value === null ? <span className="text-stop">not at all</span> : <Figure of={of} />;
}

/** It must last so many days: how long may the sets be on, and how many minutes on the key? */
export function Ration() {
  const { view } = useDesk();
  const { register, handleSubmit, formState } = useForm<Form>({
    defaultValues: {
      month: String(view.report.verdict.hard_month),
      day: "10",
      days: "5",
      sky: "poor",
      start: "100",
      vital: true,
    },
  });
  const ask = useMutation({
    mutationFn: (form: Form) =>
      answer(
        client.POST("/api/designs/{design_id}/ration", {
          params: { path: { design_id: view.id } },
          body: {
            month: Number(form.month),
            day: Number(form.day),
            days: Number(form.days),
            sky: form.sky,
            start_share: Number(form.start) / 100,
            vital_only: form.vital,
          },
        }),
      ),
  });
  const number = (id: "day" | "days" | "start", label: string) => (
    <div className="w-36">
      <label htmlFor={`ration-${id}`} className="label mb-0.5 block">
        {label}
      </label>
      <input
        id={`ration-${id}`}
        className="field"
        inputMode="numeric"
        {...register(id, { validate: wholeNumber })}
      />
    </div>
  );
  const fault = Object.values(formState.errors)[0]?.message;
  return (
    <Part
      title="Stretch the battery"
      note="how long you can listen and transmit if it must last this many days"
    >
      <form
        aria-label="What must last"
        className="mb-3 flex flex-wrap items-end gap-3"
        noValidate
        onSubmit={handleSubmit((form) => ask.mutate(form))}
      >
        <PlainSelect id="ration-month" label="Month" choices={MONTH_CHOICES} {...register("month")} />
        {number("day", "From day")}
        {number("days", "Days it must last")}
        <PlainSelect id="ration-sky" label="Weather" choices={SKIES} {...register("sky")} />
        {number("start", "Charge now, %")}
        <label className="flex items-center gap-1.5 pb-2">
          <input type="checkbox" {...register("vital")} />
          vital loads only
        </label>
        <button type="submit" className="btn btn-primary btn-sm" disabled={ask.isPending}>
          Calculate
        </button>
      </form>
      {(fault || ask.error) && (
        <p role="alert" className="mb-2 text-stop">
          {fault ?? ask.error?.message}
        </p>
      )}
      {ask.data &&
        (ask.data.report ? (
          <Table report={ask.data.report} prefix={`ration${ask.submittedAt}.`} />
        ) : (
          <p role="alert">
            Nothing to calculate yet. You need a radio that an operator uses, a location with sun data and a
            battery.
          </p>
        ))}
    </Part>
  );
}
