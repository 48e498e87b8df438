import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useForm } from "react-hook-form";
import { useNavigate } from "react-router";
import { answer, client, type NewSite, Refusal } from "../../api/client";
import { sitesKey, useCatalogue, useSites } from "../../api/queries";
import { freshKey } from "../../kit/freshKey";
import { PlaceBox } from "../../kit/PlaceBox";
import { PlainSelect } from "../../kit/PlainSelect";

/** `from` is what it starts as: a usual station of this kind, empty, or the design as built of another site. */
type Form = {
  name: string;
  kind: NonNullable<NewSite["kind"]>;
  purpose: NonNullable<NewSite["purpose"]>;
  place: string;
  from: string;
};
const [USUAL, EMPTY] = ["usual", "empty"];

/** The document a site starts from; none has the server propose one. */
async function documentOf(form: Form, place: NewSite["place"]): Promise<NewSite["document"]> {
  if (form.from === USUAL) return null;
  const brief = { kind: form.kind, purpose: form.purpose };
  if (form.from === EMPTY) return { format: "yonderstat-design", version: 3, name: "A", brief, place };
  const source = await answer(
    client.GET("/api/designs/{design_id}", {
      params: { path: { design_id: form.from }, query: { remedies: "later" } },
    }),
  );
  return { ...source.document, name: "A", place: place ?? source.document.place };
}

async function readPlace(text: string): Promise<NewSite["place"]> {
  if (text.trim() === "") return null;
  const place = await answer(client.GET("/api/place", { params: { query: { text } } }));
  const { latitude_deg, longitude_deg, time_zone } = place;
  return { latitude_deg, longitude_deg, time_zone };
}

/** A new site in one line: it starts with a design that already runs. */
export function NewSiteForm({ onClose }: { onClose: () => void }) {
  const { data: catalogue } = useCatalogue();
  const cache = useQueryClient();
  const navigate = useNavigate();
  // One key for this form: pressing twice makes one site.
  const key = useRef(freshKey());
  const [refusal, setRefusal] = useState<string>();
  const { register, handleSubmit, setError, clearErrors, setValue, resetField, watch, formState } =
    useForm<Form>({
      defaultValues: { name: "", kind: "home", purpose: "standby", place: "", from: USUAL },
    });
  const { data: sites } = useSites();
  const starts = [
    { value: USUAL ?? "", label: "a usual station of this kind" },
    { value: EMPTY ?? "", label: "empty, with no guesses" },
    ...(sites ?? []).map((site) => ({ value: site.design_id, label: `a copy of ${site.name}` })),
  ];
  const { errors, isSubmitting } = formState;
  const near = sites?.flatMap(({ summary }) => {
    const { latitude_deg = null, longitude_deg = null } = summary ?? {};
    return latitude_deg === null || longitude_deg === null ? [] : [{ latitude_deg, longitude_deg }];
  })[0];

  const create = handleSubmit(async (form) => {
    setRefusal(undefined);
    let place: NewSite["place"];
    try {
      place = await readPlace(form.place);
    } catch (error) {
      setError("place", { message: (error as Error).message }, { shouldFocus: true });
      return;
    }
    try {
      const document = await documentOf(form, place);
      const body = { name: form.name, kind: form.kind, purpose: form.purpose, place, document };
      const params = { header: { "Idempotency-Key": key.current } };
      const site = await answer(client.POST("/api/sites", { body, params }));
      await cache.invalidateQueries({ queryKey: sitesKey });
      navigate(`/designs/${site.designs[0]?.id}/draw`);
    } catch (error) {
      const fault =
        error instanceof Refusal ? error.problem.faults.find((item) => item.pointer === "/name") : undefined;
      if (fault) setError("name", { message: `The name ${fault.message}` }, { shouldFocus: true });
      else setRefusal((error as Error).message);
    }
  });

  return (
    <form
      aria-label="New site"
      className="grid gap-3 border-b border-hair py-4 md:grid-cols-[2fr_1fr_1fr_1.2fr_1.5fr_auto]"
      onSubmit={create}
      noValidate
    >
      <div>
        <label htmlFor="site-name" className="label mb-0.5 block">
          Name
        </label>
        <input
          id="site-name"
          className="field"
          // biome-ignore lint/a11y/noAutofocus: the form opens because someone asked for it
          autoFocus
          autoComplete="off"
          aria-invalid={errors.name ? true : undefined}
          aria-describedby="site-name-error"
          {...register("name", {
            validate: (text) => text.trim() !== "" || "Type a name, such as Quay Street shack",
          })}
        />
        <p id="site-name-error" role="alert" className="text-[12px] text-stop">
          {errors.name?.message}
        </p>
      </div>
      <PlainSelect
        id="site-kind"
        label="Kind"
        choices={catalogue?.kinds}
        {...register("kind", {
          // The purpose follows the kind until somebody chooses one.
          onChange: (event) => {
            const usual = catalogue?.usual_purpose[event.target.value];
            if (usual && !formState.dirtyFields.purpose) resetField("purpose", { defaultValue: usual });
          },
        })}
      />
      <PlainSelect id="site-purpose" label="Purpose" choices={catalogue?.purposes} {...register("purpose")} />
      <PlainSelect id="site-from" label="Start with" choices={starts} {...register("from")} />
      <div>
        <label htmlFor="site-place" className="label mb-0.5 block">
          Place (locator, coordinates or town)
        </label>
        <PlaceBox
          id="site-place"
          text={watch("place")}
          invalid={errors.place !== undefined}
          onText={(text) => {
            clearErrors("place");
            setValue("place", text);
          }}
          onSettle={(text) => setValue("place", text)}
          near={near}
        />
        <p id="site-place-error" role="alert" className="text-[12px] text-stop">
          {errors.place?.message}
        </p>
      </div>
      <div className="flex items-end gap-2 self-start md:pt-[19px]">
        <button type="submit" className="btn btn-primary btn-sm" disabled={isSubmitting}>
          Create
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onClose}>
          Close
        </button>
      </div>
      {isSubmitting && (
        <p role="status" className="text-ink2 md:col-span-6">
          Looking for the cheapest battery and panels that hold there over ten weather years; a few seconds …
        </p>
      )}
      {refusal && (
        <p role="alert" className="text-stop md:col-span-6">
          {refusal}
        </p>
      )}
    </form>
  );
}
