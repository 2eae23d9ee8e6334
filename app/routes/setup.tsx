import { getFormProps, getInputProps, useForm } from "@conform-to/react";
import { getZodConstraint, parseWithZod } from "@conform-to/zod/v4";
import { data, Form, redirect } from "react-router";
import { z } from "zod";
import { Button, Field } from "~/app/components/controls";
import { Wordmark } from "~/app/components/wordmark";
import { answered, askedOrStays, unlessStayed } from "~/app/lib/stays";
import { database, demoMode } from "~/app/server/db.server";
import { readForm } from "~/app/server/form.server";
import { callerAddress, sessionCookie } from "~/app/server/session.server";
import { createAccount, createShop, isEmpty, signIn, takeSetupKey } from "~/db/accounts";
import { newId } from "~/db/ids";
import { saveProfile } from "~/db/profiles";
import { shippedLibrary } from "~/profiles/library";
import type { Route } from "./+types/setup";

const schema = z.object({
  key: z.string({ error: "Enter the key that ./iteron start has printed." }).trim().max(60),
  shop: z.string({ error: "Name the shop." }).trim().max(120),
  currency: z
    .string()
    .default("EUR")
    .transform((c) => c.trim().toUpperCase())
    .pipe(z.string().regex(/^[A-Z]{3}$/, "Three letters, for example EUR.")),
  name: z.string({ error: "Enter your name." }).trim().max(120),
  email: z.email({ error: "Enter a mail address; it is your sign-in." }).max(190),
  password: z.string({ error: "Choose a password." }).min(10, "At least ten characters.").max(200),
});

/** Only while nobody has an account; afterwards this page does not exist. */
async function onlyWhileEmpty() {
  if (!(await isEmpty(database(), demoMode()))) throw redirect("/sign-in");
}

export async function loader({ request }: Route.LoaderArgs) {
  await onlyWhileEmpty();
  return { key: new URL(request.url).searchParams.get("key") ?? "" };
}

export async function action({ request }: Route.ActionArgs) {
  await onlyWhileEmpty();
  const submission = parseWithZod(await readForm(request), { schema });
  if (submission.status !== "success") return data(submission.reply(), { status: 400 });
  const { key, shop, currency, name, email, password } = submission.value;
  const db = database();
  const shopId = newId();
  const taken = await db.transaction(async (sql) => {
    if (!(await takeSetupKey(sql, key))) return false;
    await createShop(sql, shopId, shop, currency);
    await createAccount(sql, { shopId, name, email, role: "lead", password, demo: false });
    for (const profile of shippedLibrary()) await saveProfile(sql, shopId, profile, "Shipped library");
    return true;
  });
  if (!taken)
    return data(
      submission.reply({ fieldErrors: { key: ["This is not the key that was printed last. Nothing was set up."] } }),
      { status: 403 },
    );
  const result = await signIn(db, { email, password, from: callerAddress(request) }, demoMode());
  return redirect(
    "/board",
    result.ok ? { headers: { "Set-Cookie": await sessionCookie(request, result.token) } } : undefined,
  );
}

/** What was typed stays when the server cannot take it now. */
export const clientAction = ({ serverAction }: Route.ClientActionArgs) => askedOrStays(serverAction);
export const shouldRevalidate = unlessStayed;

export default function Setup({ loaderData, actionData }: Route.ComponentProps) {
  const [form, fields] = useForm({
    lastResult: answered(actionData),
    defaultValue: { currency: "EUR", key: loaderData.key },
    constraint: getZodConstraint(schema),
    onValidate: ({ formData }) => parseWithZod(formData, { schema }),
  });
  return (
    <main className="mx-auto max-w-md px-4 py-14">
      <Wordmark />
      <h1 className="mt-10">Set up your shop</h1>
      <p className="mt-1 text-quiet">This is asked once. You become its lead and can add others later.</p>
      <Form method="post" {...getFormProps(form)} className="mt-6 space-y-4">
        <Field label="Key" hint="It stands in the address that ./iteron start has printed." errors={fields.key.errors}>
          {(ids) => (
            <input
              {...getInputProps(fields.key, { type: "text" })}
              {...ids}
              autoComplete="off"
              className="field num mt-1"
            />
          )}
        </Field>
        <Field label="Name of the shop" errors={fields.shop.errors}>
          {(ids) => <input {...getInputProps(fields.shop, { type: "text" })} {...ids} className="field mt-1" />}
        </Field>
        <Field label="Currency of prices" hint="Three letters, for example EUR or NOK." errors={fields.currency.errors}>
          {(ids) => (
            <input
              {...getInputProps(fields.currency, { type: "text" })}
              {...ids}
              maxLength={3}
              className="field num mt-1 uppercase"
            />
          )}
        </Field>
        <Field label="Your name" errors={fields.name.errors}>
          {(ids) => (
            <input
              {...getInputProps(fields.name, { type: "text" })}
              {...ids}
              autoComplete="name"
              className="field mt-1"
            />
          )}
        </Field>
        <Field label="E-mail" errors={fields.email.errors}>
          {(ids) => (
            <input
              {...getInputProps(fields.email, { type: "email" })}
              {...ids}
              autoComplete="username"
              className="field mt-1"
            />
          )}
        </Field>
        <Field label="Password" hint="Ten characters or more." errors={fields.password.errors}>
          {(ids) => (
            <input
              {...getInputProps(fields.password, { type: "password" })}
              {...ids}
              autoComplete="new-password"
              className="field mt-1"
            />
          )}
        </Field>
        <Button type="submit" look="next" className="w-full">
          Create shop and sign in
        </Button>
      </Form>
    </main>
  );
}
