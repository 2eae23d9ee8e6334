import { KIND_NAMES } from "../../model/kinds";
import { describeContact } from "../../model/labels";
import { Model } from "../../model/outcome";
import type { Condition, Contact, FunctionSpec, Part, System } from "../../model/types";
import type { CheckContext } from "./context";
import type { Finding } from "./finding";

/**
 * A part of the kit that waits for reverse on a wire, while on this gearbox nothing tells it: automatics report reverse
 * on the bus, most manual gearboxes only light a lamp. Found by trying: with the wire made live in reverse, more works.
 */
export function reverseFindings({ system, kitParts, evaluations, model, open, settings }: CheckContext): Finding[] {
  const inReverse = system.functions.flatMap((fn) =>
    fn.situations.filter((s) => s.set.selector === "R" || s.set.leftReverse).map((s) => ({ fn, situation: s.id })),
  );
  const failing = inReverse.filter((t) => !works(model, t));
  if (failing.length === 0) return [];
  return system.parts
    .filter((p) => kitParts.has(p.id) && p.type === "device")
    .flatMap((part) =>
      reverseContacts(part).flatMap(({ at, contact }): Finding[] => {
        const ref = `${part.id}.${at}`;
        if (evaluations.some((e) => e.arrivals(ref).length > 0)) return [];
        const live = new Model(asIfLive(system, part, at), open, settings);
        const gained = failing.filter((t) => works(live, t)).map((t) => t.fn.name);
        if (gained.length === 0) return [];
        return [
          {
            rule: "reverse-trigger",
            level: "watch",
            where: describeContact(system, ref),
            text: `${part.name} is not told that reverse is selected; with the ${KIND_NAMES[contact.kind]} this would work: ${[...new Set(gained)].join(", ")}.`,
            remedy:
              "Run a wire from the reverse lamp. Find it with ignition on, engine off, parking brake set, selector in reverse, meter at the lamp plug; its colour varies.",
          },
        ];
      }),
    );
}

function works(model: Model, { fn, situation }: { fn: FunctionSpec; situation: string }): boolean {
  return model.try(fn, situation).outcome.kind === "ok";
}

/** Inputs that could carry the news of reverse and that a condition of the part looks at. */
function reverseContacts(part: Part): { at: string; contact: Contact }[] {
  const asked = new Set(
    [...(part.routes ?? []), ...(part.sources ?? [])].flatMap((r) => (r.when ? looksAt(r.when) : [])),
  );
  return part.ports.flatMap((port) =>
    port.contacts
      .filter((c) => (c.kind === "reverse" || c.kind === "trigger") && c.direction === "in")
      .map((contact) => ({ at: `${port.id}.${contact.id}`, contact }))
      .filter(({ at }) => asked.has(at)),
  );
}

function looksAt(c: Condition): string[] {
  if ("all" in c) return c.all.flatMap(looksAt);
  if ("any" in c) return c.any.flatMap(looksAt);
  if ("not" in c) return looksAt(c.not);
  return "present" in c ? [c.present] : [];
}

/** The system with one condition of a part taken as met while the selector is in reverse. */
function asIfLive(system: System, part: Part, contact: string): System {
  const live = <T extends { when?: Condition }>(item: T): T =>
    item.when ? { ...item, when: replaced(item.when, contact) } : item;
  const changed: Part = {
    ...part,
    ...(part.routes ? { routes: part.routes.map(live) } : {}),
    ...(part.sources ? { sources: part.sources.map(live) } : {}),
  };
  return { ...system, parts: system.parts.map((p) => (p.id === part.id ? changed : p)) };
}

function replaced(c: Condition, contact: string): Condition {
  if ("all" in c) return { all: c.all.map((x) => replaced(x, contact)) };
  if ("any" in c) return { any: c.any.map((x) => replaced(x, contact)) };
  if ("not" in c) return { not: replaced(c.not, contact) };
  return "present" in c && c.present === contact ? { situation: "selector", is: ["R"] } : c;
}
