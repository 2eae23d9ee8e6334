import { getFormProps, getInputProps, getSelectProps, useForm } from "@conform-to/react";
import { getZodConstraint, parseWithZod } from "@conform-to/zod/v4";
import { data, Form, redirect } from "react-router";
import { z } from "zod";
import { Button, Field } from "~/app/components/controls";
import { Notice } from "~/app/components/marks";
import { database } from "~/app/server/db.server";
import { person, requireRole, WRITERS } from "~/app/server/session.server";
import { composeFitted } from "~/core/model/compose";
import { CoreError } from "~/core/model/errors";
import { newId } from "~/db/ids";
import { createJob } from "~/db/jobs";
import { jobDocuments, listProfiles } from "~/db/profiles";
import type { Route } from "./+types/new";

const schema = z.object({
  id: z.uuid(),
  title: z.string({ error: "Say what the job is, for example “Taxi 3: phone on the screen”." }).trim().max(200),
  customer: z.string().trim().max(200).default(""),
  car: z.uuid({ error: "Choose a car." }),
  variant: z.uuid({ error: "Choose a radio variant." }),
  kit: z.uuid({ error: "Choose a kit." }),
});

export async function loader({ context }: Route.LoaderArgs) {
  const account = person(context);
  requireRole(account, WRITERS);
  return { profiles: await listProfiles(database(), account.shopId), id: newId() };
}

export async function action({ request, context }: Route.ActionArgs) {
  const account = person(context);
  const submission = parseWithZod(await request.formData(), { schema });
  if (submission.status !== "success") return data(submission.reply(), { status: 400 });
  const { id, title, customer, car, variant, kit } = submission.value;
  const documents = await jobDocuments(database(), account.shopId, { car, variant, kit });
  if (!documents)
    return data(
      submission.reply({ formErrors: ["One of the profiles is not in your library any more. Load the page again."] }),
      { status: 422 },
    );
  try {
    composeFitted(documents.car, documents.variant, documents.kit);
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    return data(submission.reply({ formErrors: [`These do not go together. ${error.message}`] }), { status: 422 });
  }
  await createJob(database(), {
    id,
    shopId: account.shopId,
    title,
    customer,
    carProfile: car,
    variantProfile: variant,
    kitProfile: kit,
    stage: "intake",
    nextAction: "Enter the identification number",
    createdAt: new Date(),
  });
  return redirect(`/jobs/${id}/intake`);
}

export const meta: Route.MetaFunction = () => [{ title: "New job · Iteron" }];

export default function NewJob({ loaderData, actionData }: Route.ComponentProps) {
  const [form, fields] = useForm({
    lastResult: actionData,
    constraint: getZodConstraint(schema),
    onValidate: ({ formData }) => parseWithZod(formData, { schema }),
  });
  const options = (kind: string) => loaderData.profiles.filter((p) => p.kind === kind);
  const choice = (label: string, field: typeof fields.car, kind: string) => (
    <Field label={label} errors={field.errors}>
      {(ids) => (
        <select
          {...getSelectProps(field)}
          {...ids}
          className="field mt-1"
          defaultValue={options(kind).length === 1 ? options(kind)[0]?.id : ""}
        >
          <option value="">Choose ...</option>
          {options(kind).map((p) => (
            <option key={p.id} value={p.id}>
              {p.title}
            </option>
          ))}
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
        {choice("Car", fields.car, "car")}
        {choice("Radio variant", fields.variant, "variant")}
        {choice("Kit", fields.kit, "kit")}
        <Button type="submit" look="next">
          Open the job
        </Button>
      </Form>
    </main>
  );
}
