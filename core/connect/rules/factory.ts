/** Factory connections that are left open. */
import { sameEnds } from "../../model/compose";
import { describePort } from "../../model/labels";
import { Model } from "../../model/outcome";
import type { KitProfile } from "../../model/profile";
import type { Link, System } from "../../model/types";
import type { CheckContext } from "./context";
import type { Finding } from "./finding";

export function openFactoryPlugs({ stock, plugged, kit, applies }: CheckContext): Finding[] {
  return stock.links.flatMap((link): Finding[] => {
    if (
      link.air ||
      onReplacedPart(kit, link) ||
      plugged.some((l) => sameEnds(l, link)) ||
      kit.unplug.some((u) => applies(u) && sameEnds(u, link))
    )
      return [];
    return [
      {
        rule: "factory-plug-open",
        level: "watch",
        link: link.id,
        where: `${describePort(stock, link.a)} – ${describePort(stock, link.b)}`,
        text: `This factory connection is open.${forgotten(stock, link)}`,
        remedy: "Plug it in again, or park it on purpose and note it.",
      },
    ];
  });
}

function onReplacedPart(kit: KitProfile, link: Link): boolean {
  return kit.replaces.some((r) => [link.a, link.b].some((p) => p.startsWith(`${r.part}.`)));
}

/** What stops working when a factory plug is forgotten, from the behaviour of the stock car. */
function forgotten(stock: System, link: Link): string {
  const lost = functionsLostWithout(stock, link.id);
  return lost.length > 0 ? ` Without it: ${lost.join(", ")}.` : "";
}

/** Names of the functions that work in the system but not with one link open. */
export function functionsLostWithout(system: System, linkId: string): string[] {
  const sound = new Model(system);
  const without = new Model(system, { openLinks: { [linkId]: "It is not plugged." } });
  const lost = system.functions.filter((fn) =>
    fn.situations.some((s) => sound.try(fn, s.id).outcome.kind === "ok" && without.try(fn, s.id).outcome.kind !== "ok"),
  );
  return [...new Set(lost.map((f) => f.name))];
}
