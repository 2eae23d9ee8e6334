import { redirect } from "react-router";
import { database } from "~/app/server/db.server";
import { endedCookie, sessionToken } from "~/app/server/session.server";
import { signOut } from "~/db/accounts";
import type { Route } from "./+types/sign-out";

export async function action({ request }: Route.ActionArgs) {
  const token = await sessionToken(request);
  if (token) await signOut(database(), token);
  return redirect("/sign-in", { headers: { "Set-Cookie": await endedCookie(request) } });
}

export function loader() {
  return redirect("/board");
}
