import { z } from "zod";
import { jobOf } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { renderSystemDrawing } from "~/app/server/system-drawing.server";
import { drawingGraph, onlyKind, onlyLayers } from "~/core/connect/drawing";
import { KIND_NAMES, SIGNAL_KINDS } from "~/core/model/kinds";
import type { Route } from "./+types/system-pdf";

const filter = z.object({
  layers: z
    .string()
    .regex(/^[012]{0,3}$/)
    .transform((t) => [...t].map(Number))
    .catch([0, 1, 2]),
  kind: z.enum(SIGNAL_KINDS).nullable().catch(null),
});

/** The drawing of the system as it is filtered on the page, as PDF. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const account = person(context);
  const { plan, row } = await jobOf(context).load();
  const query = new URL(request.url).searchParams;
  const { layers, kind } = filter.parse({ layers: query.get("layers"), kind: query.get("kind") });
  const graph = onlyLayers(drawingGraph(plan.fitted, plan.touched.parts), layers);
  const pdf = await renderSystemDrawing(
    account.shopName,
    row,
    kind ? onlyKind(graph, kind) : graph,
    kind ? `Only what carries ${KIND_NAMES[kind]}.` : plan.documents.car.title,
  );
  return new Response(new Uint8Array(pdf), {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `inline; filename="system-${row.number}.pdf"`,
    },
  });
}
