import { data } from "react-router";
import { z } from "zod";
import { askedOrStays } from "~/app/lib/stays";
import { database } from "~/app/server/db.server";
import { readForm } from "~/app/server/form.server";
import { person, requireRole, WRITERS } from "~/app/server/session.server";
import { countStock } from "~/db/stock";
import type { Route } from "./+types/stock";

const schema = z.object({
  what: z.string().trim().min(1).max(80),
  amount: z
    .string()
    .trim()
    .min(1)
    .transform((t) => Number(t.replace(",", ".")))
    .pipe(z.number().min(0).max(100_000)),
});

/** Notes how much of a material was counted on the shelf. */
export async function action({ request, context }: Route.ActionArgs) {
  const account = person(context);
  requireRole(account, WRITERS);
  const parsed = schema.safeParse(Object.fromEntries(await readForm(request)));
  if (!parsed.success)
    return data(
      { ok: false as const, message: "Write how much there is as a number, like 12 or 3,5." },
      { status: 400 },
    );
  await countStock(database(), account.shopId, { ...parsed.data, by: account.name });
  return { ok: true as const };
}

/** What was typed stays when the server cannot take it now. */
export const clientAction = ({ serverAction }: Route.ClientActionArgs) => askedOrStays(serverAction);

export function loader() {
  throw data(null, { status: 404 });
}
