import { getFormProps, getInputProps, useForm } from "@conform-to/react";
import { getZodConstraint, parseWithZod } from "@conform-to/zod/v4";
import { useEffect } from "react";
import { data, Form, redirect, useNavigation } from "react-router";
import { z } from "zod";
import { Button, Field } from "~/app/components/controls";
import { Notice } from "~/app/components/marks";
import { Wordmark } from "~/app/components/wordmark";
import { forgetPages } from "~/app/lib/kept-pages";
import { answered, askedOrStays, unlessStayed } from "~/app/lib/stays";
import { database, demoMode } from "~/app/server/db.server";
import { readForm } from "~/app/server/form.server";
import { callerAddress, sessionCookie } from "~/app/server/session.server";
import { isEmpty, signIn } from "~/db/accounts";
import { DEMO_ACCOUNTS, DEMO_PASSWORD } from "~/demo/people";
import type { Route } from "./+types/sign-in";

const schema = z.object({
  email: z.string({ error: "Enter your address." }).trim().max(190),
  password: z.string({ error: "Enter your password." }).max(200),
});

export async function loader() {
  if (await isEmpty(database(), demoMode())) throw redirect("/setup");
  return { demo: demoMode() ? { accounts: DEMO_ACCOUNTS, password: DEMO_PASSWORD } : null };
}

export async function action({ request }: Route.ActionArgs) {
  const submission = parseWithZod(await readForm(request), { schema });
  if (submission.status !== "success") return data(submission.reply(), { status: 400 });
  const { email, password } = submission.value;
  const result = await signIn(database(), { email, password, from: callerAddress(request) }, demoMode());
  if (!result.ok) {
    const reason =
      result.reason === "wrong" ? "Address or password is wrong." : "Too many tries. Wait a quarter of an hour.";
    return data(submission.reply({ formErrors: [reason], hideFields: ["password"] }), {
      ...(result.reason === "wrong" ? { status: 401 } : { status: 429, headers: { "Retry-After": "900" } }),
    });
  }
  return redirect(safeTarget(new URL(request.url).searchParams.get("to")), {
    headers: { "Set-Cookie": await sessionCookie(request, result.token) },
  });
}

/** Only paths of this application; anything else leads to the board. */
function safeTarget(to: string | null): string {
  return to && /^\/[a-z]/.test(to) ? to : "/board";
}

/** What was typed stays when the server cannot take it now. */
export const clientAction = ({ serverAction }: Route.ClientActionArgs) => askedOrStays(serverAction);
export const shouldRevalidate = unlessStayed;

export default function SignIn({ loaderData, actionData }: Route.ComponentProps) {
  const busy = useNavigation().state !== "idle";
  useEffect(() => {
    forgetPages();
  }, []);
  const [form, fields] = useForm({
    lastResult: answered(actionData),
    constraint: getZodConstraint(schema),
    onValidate: ({ formData }) => parseWithZod(formData, { schema }),
  });
  return (
    <main className="mx-auto max-w-md px-4 py-14">
      <Wordmark />
      <h1 className="mt-10">Sign in</h1>
      <p className="mt-1 text-quiet">Your shop's jobs, kits and cars.</p>
      <Form method="post" {...getFormProps(form)} className="mt-6 space-y-4">
        {form.errors && (
          <Notice tone="stop" live>
            {form.errors.join(" ")}
          </Notice>
        )}
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
        <Field label="Password" errors={fields.password.errors}>
          {(ids) => (
            <input
              {...getInputProps(fields.password, { type: "password" })}
              {...ids}
              autoComplete="current-password"
              className="field mt-1"
            />
          )}
        </Field>
        <Button type="submit" look="next" disabled={busy} className="w-full">
          {busy ? "Signing in ..." : "Sign in"}
        </Button>
      </Form>
      {loaderData.demo && <DemoAccounts accounts={loaderData.demo.accounts} password={loaderData.demo.password} />}
    </main>
  );
}

function DemoAccounts({
  accounts,
  password,
}: {
  accounts: readonly { email: string; name: string; role: string }[];
  password: string;
}) {
  return (
    <section className="mt-10 border-t border-rule pt-4" aria-label="Demonstration accounts">
      <p className="text-quiet">Demonstration on this machine. Sign in as:</p>
      <ul className="mt-3 grid gap-2">
        {accounts.map((a) => (
          <li key={a.email}>
            <Form method="post">
              <input type="hidden" name="email" value={a.email} />
              <input type="hidden" name="password" value={password} />
              <Button type="submit" className="w-full justify-between!">
                <span>{a.name}</span>
                <span className="text-quiet">{a.role}</span>
              </Button>
            </Form>
          </li>
        ))}
      </ul>
    </section>
  );
}
