import { contactWords, shortContact } from "../model/labels";
import type { KitProfile } from "../model/profile";

/** What one wire colour means in one kit. */
export interface ColourUse {
  kit: string;
  title: string;
  /** The function, which always comes before the colour. */
  job: string;
  /** Part and contact, in words. */
  contact: string;
}

/** A colour as the wire looks, with all its meanings. */
export interface ColourMeaning {
  base: string;
  tracer: string;
  uses: ColourUse[];
  /** Two kits give it different functions. */
  conflict: boolean;
}

/** Names a colour in an address. */
export function colourKey({ base, tracer }: Pick<ColourMeaning, "base" | "tracer">): string {
  return [base, tracer]
    .filter((c) => c !== "")
    .join("-")
    .replaceAll(" ", "-");
}

/**
 * Every wire colour of the given kits with what it means in each. A colour that means two things in two kits is a
 * conflict: whoever goes by colour connects the wrong wire.
 */
export function colourMeanings(kits: readonly KitProfile[]): ColourMeaning[] {
  const found = new Map<string, ColourMeaning>();
  for (const kit of kits) {
    for (const part of kit.parts) {
      for (const port of part.ports) {
        for (const contact of port.contacts) {
          if (!contact.wire) continue;
          const { base, tracer = "" } = contact.wire;
          const key = `${base}/${tracer}`.toLowerCase();
          const meaning = found.get(key) ?? { base, tracer, uses: [], conflict: false };
          const job = contactWords(contact);
          if (!meaning.uses.some((u) => u.kit === kit.id && u.job === job))
            meaning.uses.push({
              kit: kit.id,
              title: kit.title,
              job,
              contact: `${part.name}, ${port.label}, ${shortContact(contact)}`,
            });
          found.set(key, meaning);
        }
      }
    }
  }
  return [...found.values()]
    .map((m) => ({ ...m, conflict: jobsDiffer(m.uses) }))
    .sort((a, b) => Number(b.conflict) - Number(a.conflict) || (a.base < b.base ? -1 : 1));
}

function jobsDiffer(uses: readonly ColourUse[]): boolean {
  const byKit = new Map<string, Set<string>>();
  for (const use of uses) byKit.set(use.kit, (byKit.get(use.kit) ?? new Set()).add(use.job.toLowerCase()));
  const sets = [...byKit.values()].map((s) => [...s].sort().join("|"));
  return new Set(sets).size > 1;
}
