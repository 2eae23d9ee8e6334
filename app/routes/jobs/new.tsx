import { getFormProps, getInputProps, getSelectProps, useForm } from "@conform-to/react";
import { getZodConstraint, parseWithZod } from "@conform-to/zod/v4";
import { useState } from "react";
import { data, Form, redirect, useFetcher } from "react-router";
import { z } from "zod";
import { Button, Field } from "~/app/components/controls";
import { Notice } from "~/app/components/marks";
import { answered, askedOrStays, unlessStayed } from "~/app/lib/stays";
import { database } from "~/app/server/db.server";
import { misfits } from "~/app/server/fit.server";
import { readForm } from "~/app/server/form.server";
import { person, requireRole, WRITERS } from "~/app/server/session.server";
import { Shelf } from "~/app/server/shelf.server";
import { Job, type OpenedWith } from "~/core/job/job";
import { composeStock } from "~/core/model/compose";
import { CoreError } from "~/core/model/errors";
import { countWords } from "~/core/model/labels";
import type { Account } from "~/db/accounts";
import { newId } from "~/db/ids";
import { createJob, setStandIn } from "~/db/jobs";
import { listProfiles, newestDocuments, profileById } from "~/db/profiles";
import type { Route } from "./+types/new";
import type { loader as fitsOf } from "./fits";

const schema = z.object({
  id: z.uuid(),
  title: z.string({ error: "Say what the job is, for example “Taxi 3: phone on the screen”." }).trim().max(200),
  customer: z.string().trim().max(200).default(""),
  car: z.uuid({ error: "Choose a car." }),
  variant: z.uuid().optional(),
  kit: z.uuid().optional(),
  practice: z.literal("yes").optional(),
});

export async function loader({ context }: Route.LoaderArgs) {
  const account = person(context);
  requireRole(account, WRITERS);
  const variants = await newestDocuments(database(), account.shopId, "variant");
  return {
    profiles: await listProfiles(database(), account.shopId),
    carOf: Object.fromEntries(variants.flatMap((v) => (v.document === "variant" ? [[v.id, v.car]] : []))),
    id: newId(),
  };
}

export async function action({ request, context }: Route.ActionArgs) {
  const account = person(context);
  const submission = parseWithZod(await readForm(request), { schema });
  if (submission.status !== "success") return data(submission.reply(), { status: 400 });
  const { id, title, customer, car, variant, kit, practice } = submission.value;
  const chosen = await chosenProfiles(account, { car, variant, kit });
  if ("problem" in chosen) return data(submission.reply({ formErrors: [chosen.problem] }), { status: 422 });
  await createJob(database(), {
    id,
    shopId: account.shopId,
    title,
    customer,
    carProfile: car,
    variantProfile: variant ?? null,
    kitProfile: kit ?? null,
    createdAt: new Date(),
    line: new Job(chosen, [], new Shelf(account.currency)).boardLine(new Date().toISOString()),
  });
  if (practice) await setStandIn(database(), account.shopId, id, null);
  return redirect(`/jobs/${id}/intake`);
}

/** The chosen profiles when they go together, else what is wrong. */
async function chosenProfiles(
  account: Account,
  ids: { car: string; variant?: string; kit?: string },
): Promise<OpenedWith | { problem: string }> {
  const of = (id: string | undefined) => (id ? profileById(database(), account.shopId, id) : null);
  const [car, variant, kit] = [await of(ids.car), await of(ids.variant), await of(ids.kit)];
  const problem = "One of the profiles is not in your library any more. Load the page again.";
  if (car?.document !== "car") return { problem };
  if (variant?.document !== "variant" && (variant || ids.variant)) return { problem };
  if (kit?.document !== "kit" && (kit || ids.kit)) return { problem };
  if (kit && !variant)
    return {
      problem: "Without the radio variant no kit can be checked. Choose the radio too, or leave both open.",
    };
  try {
    if (variant) composeStock(car, variant);
    const why = variant && kit ? misfits(account, car, variant, [kit])[kit.id] : undefined;
    return why === undefined
      ? { car, variant, kit }
      : { problem: `${kit?.title} does not fit this car. ${why} Choose another, or leave the kit open.` };
  } catch (error) {
    if (error instanceof CoreError) return { problem: `These do not go together. ${error.message}` };
    throw error;
  }
}

export const meta: Route.MetaFunction = () => [{ title: "New job · Iteron" }];

/** What was typed stays when the server cannot take it now. */
export const clientAction = ({ serverAction }: Route.ClientActionArgs) => askedOrStays(serverAction);
export const shouldRevalidate = unlessStayed;

export default function NewJob({ loaderData, actionData }: Route.ComponentProps) {
  const [form, fields] = useForm({
    lastResult: answered(actionData),
    constraint: getZodConstraint(schema),
    onValidate: ({ formData }) => parseWithZod(formData, { schema }),
  });
  const [car, setCar] = useState("");
  const [kit, setKit] = useState("");
  const fits = useFetcher<typeof fitsOf>();
  const ask = (variant: string) => void fits.load(`/jobs/fits?car=${car}&variant=${variant}`);
  const never = fits.data?.misfits ?? {};
  const carSlug = loaderData.profiles.find((p) => p.id === car)?.slug;
  const taken = loaderData.profiles.find((p) => p.id === kit);
  const why = taken && never[taken.slug];
  const options = (kind: string) =>
    loaderData.profiles.filter((p) => p.kind === kind && (kind !== "variant" || loaderData.carOf[p.slug] === carSlug));
  const choice = (label: string, field: typeof fields.car | typeof fields.kit, kind: string, later: string) => (
    <Field label={label} errors={field.errors}>
      {(ids) => (
        <select
          {...getSelectProps(field)}
          {...ids}
          className="field mt-1"
          defaultValue=""
          onChange={(e) => {
            if (kind === "car") setCar(e.currentTarget.value);
            if (kind === "variant" && e.currentTarget.value) ask(e.currentTarget.value);
            if (kind === "kit") setKit(e.currentTarget.value);
          }}
        >
          <option value="">{later}</option>
          {options(kind)
            .filter((p) => kind !== "kit" || !(p.slug in never))
            .map((p) => (
              <option key={p.id} value={p.id}>
                {p.title}
              </option>
            ))}
          {kind === "kit" && Object.keys(never).length > 0 && (
            <optgroup label="Not for this car and radio">
              {options(kind)
                .filter((p) => p.slug in never)
                .map((p) => (
                  <option key={p.id} disabled title={never[p.slug]}>
                    {p.title}
                  </option>
                ))}
            </optgroup>
          )}
        </select>
      )}
    </Field>
  );
  return (
    <main id="content" className="mx-auto max-w-xl px-4 py-6">
      <h1>New job</h1>
      <p className="mt-1 text-quiet">One car, one visit. The job keeps the versions of the profiles chosen here.</p>
      <Form method="post" {...getFormProps(form)} className="mt-6 space-y-4">
        <input type="hidden" name="id" value={loaderData.id} />
        {form.errors && (
          <Notice tone="stop" live>
            {form.errors.join(" ")}
          </Notice>
        )}
        <Field label="Job" errors={fields.title.errors}>
          {(ids) => <input {...getInputProps(fields.title, { type: "text" })} {...ids} className="field mt-1" />}
        </Field>
        <Field label="Customer" hint="May stay empty." errors={fields.customer.errors}>
          {(ids) => <input {...getInputProps(fields.customer, { type: "text" })} {...ids} className="field mt-1" />}
        </Field>
        {choice("Car", fields.car, "car", "Choose ...")}
        {choice("Radio variant", fields.variant, "variant", "Not known yet: find it in Intake")}
        {choice("Kit", fields.kit, "kit", "Open: choose it in Fit")}
        {why && (
          <Notice tone="stop" live>
            {taken.title} does not fit this car. {why} The kit is open again: choose another, or leave it so.
          </Notice>
        )}
        <WhyNot kits={options("kit").flatMap((p) => (p.slug in never ? [{ ...p, why: never[p.slug] ?? "" }] : []))} />
        <label className="flex min-h-11 items-center gap-3">
          <input type="checkbox" name="practice" value="yes" className="size-5" />
          <span>
            Practice, with a stand-in car <span className="text-quiet">that answers tests and scans</span>
          </span>
        </label>
        <Button type="submit" look="next">
          Open the job
        </Button>
      </Form>
    </main>
  );
}

/** Why kits of the library are not for this car and radio, one line each. */
function WhyNot({ kits }: { kits: readonly { id: string; title: string; why: string }[] }) {
  if (kits.length === 0) return null;
  return (
    <details className="text-sm">
      <summary className="cursor-pointer py-2">Why {countWords(kits.length, "kit does", "kits do")} not fit</summary>
      <dl className="mt-1 space-y-2">
        {kits.map((k) => (
          <div key={k.id}>
            <dt className="font-medium">{k.title}</dt>
            <dd className="text-quiet">{k.why}</dd>
          </div>
        ))}
      </dl>
    </details>
  );
}
