import { data } from "react-router";
import { jobOf } from "~/app/server/jobs.server";
import { renderMarks } from "~/app/server/marks.server";
import type { Route } from "./+types/marks";

/** The marks for the floor as PDF. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const source = jobOf(context);
  const pdf = await renderMarks(source.account.shopName, await source.load(), params.camera);
  if (!pdf) throw data("This job has no such camera.", { status: 404 });
  return new Response(new Uint8Array(pdf), {
    headers: { "Content-Type": "application/pdf", "Content-Disposition": 'inline; filename="marks.pdf"' },
  });
}
