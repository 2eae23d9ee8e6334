import { data } from "react-router";
import { database } from "~/app/server/db.server";
import { libraryKits, misfits } from "~/app/server/fit.server";
import { person } from "~/app/server/session.server";
import { profileById } from "~/db/profiles";
import type { Route } from "./+types/fits";

/** Which kits of the library do not fit a car with a radio, and why: by name. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const account = person(context);
  const query = new URL(request.url).searchParams;
  // As long as no radio is chosen every kit may fit.
  if (!query.has("variant")) return { variant: null, misfits: {} as Record<string, string> };
  const of = (name: string) => profileById(database(), account.shopId, query.get(name) ?? "");
  const [car, variant] = [await of("car"), await of("variant")];
  if (car?.document !== "car" || variant?.document !== "variant")
    throw data("Name a car and a radio of your library.", { status: 404 });
  return { variant: query.get("variant"), misfits: misfits(account, car, variant, await libraryKits(account)) };
}
