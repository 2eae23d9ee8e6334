import { data } from "react-router";
import { z } from "zod";
import { jobOf } from "~/app/server/jobs.server";
import { cameraPhoto } from "~/sim/camera-photo";
import { seedOf } from "~/sim/random";
import type { Route } from "./+types/camera-photo";

const wheel = z.coerce.number().min(-1200).max(1200).catch(0);

/** What a photo of the stand-in car's screen would show of a camera. */
export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { row, job } = await jobOf(context).load();
  const angle = wheel.parse(new URL(request.url).searchParams.get("wheel"));
  const photo = row.practice ? cameraPhoto(job.plan, job.state, params.camera, seedOf(row.id), angle) : null;
  if (photo === null) throw data("There is no such camera on a stand-in car of this job.", { status: 404 });
  return new Response(photo, { headers: { "Content-Type": "image/svg+xml", "Cache-Control": "no-store" } });
}
