/** What the page of the whole system shows of a job: its drawing, and each part with what it is connected to. */
import { drawingGraph } from "../connect/drawing";
import { backOf } from "../drawing/back";
import { leadAt } from "../drawing/lead";
import type { Job } from "../job/job";
import { findPort } from "../model/ports";
import type { Link, PortRef } from "../model/types";
import { connectionRows, madeNow } from "./plugs";

/** How a connection stands: as the car was built, or as it is marked in Connect. */
export type Standing = "built" | "open" | "plugged" | "wrong";

export function systemView(job: Job) {
  const { plan } = job;
  const made = madeNow(job);
  return {
    graph: job.once("system graph", () => drawingGraph(plan.fitted, plan.touched.parts)),
    parts: job.once("system parts", () => partsOf(job)),
    /** Connections that are made, and the ports in which a plug sits. */
    made: made.map((l) => l.id),
    filled: made.flatMap((l) => [l.a, l.b]),
  };
}

function partsOf(job: Job) {
  const { fitted, touched } = job.plan;
  const lines = fitted.links.flatMap((l) => {
    const standing = standingOf(job, l);
    return [end(job, l, l.a, l.b, standing), end(job, l, l.b, l.a, standing)];
  });
  return fitted.parts.flatMap((part) => {
    const own = lines.filter((l) => l.of === part.id);
    if (own.length === 0) return [];
    const isDevice = part.type === "device";
    return [
      {
        id: part.id,
        name: part.name,
        type: part.type,
        ofKit: touched.parts.has(part.id),
        lines: own,
        back: isDevice ? backOf(fitted, part.id) : null,
        /** Of a lead: where each of its ends goes. */
        route: isDevice
          ? null
          : leadAt(
              fitted,
              own.map((l) => l.port),
            ),
      },
    ];
  });
}

function standingOf(job: Job, link: Link): Standing {
  const row = connectionRows(job).find((c) => c.link === link.id);
  if (!row) return "built";
  return row.wrong ? "wrong" : row.plugged ? "plugged" : "open";
}

/** A connection as one of its parts has it. */
function end(job: Job, link: Link, port: PortRef, other: PortRef, standing: Standing) {
  const { fitted } = job.plan;
  const [of = "", to = ""] = [port, other].map((ref) => ref.split(".")[0]);
  return {
    of,
    link: link.id,
    port,
    /** Names of the ports, empty where there is but one. */
    own: findPort(fitted, port)?.label ?? "",
    into: findPort(fitted, other)?.label ?? "",
    to,
    toName: fitted.parts.find((p) => p.id === to)?.name ?? "",
    kinds: [...new Set((findPort(fitted, port)?.contacts ?? []).map((c) => c.kind))],
    air: link.air ?? false,
    standing,
  };
}
