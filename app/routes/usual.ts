import { data } from "react-router";
import { z } from "zod";
import { askedOrStays } from "~/app/lib/stays";
import { database } from "~/app/server/db.server";
import { readForm } from "~/app/server/form.server";
import { person, requireRole } from "~/app/server/session.server";
import { setUsualOption } from "~/db/usual";
import type { Route } from "./+types/usual";

const schema = z.object({ choice: z.string().min(1).max(60), option: z.string().min(1).max(60) });

/** Makes an option of a method the shop's usual one. */
export async function action({ request, context }: Route.ActionArgs) {
  const account = person(context);
  requireRole(account, ["lead"]);
  const parsed = schema.safeParse(Object.fromEntries(await readForm(request)));
  if (!parsed.success) return data({ ok: false, message: "Say which option. Load the page again." }, { status: 400 });
  await setUsualOption(database(), account.shopId, parsed.data.choice, parsed.data.option);
  return { ok: true };
}

/** What was typed stays when the server cannot take it now. */
export const clientAction = ({ serverAction }: Route.ClientActionArgs) => askedOrStays(serverAction);

export function loader() {
  throw data(null, { status: 404 });
}
