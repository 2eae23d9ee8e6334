import { colourMeanings } from "../../library/colours";
import { upperFirst } from "../../model/labels";
import type { CheckContext } from "./context";
import type { Finding } from "./finding";

/** Wire colours of this kit that mean something else in another kit of the shop: whoever goes by colour is wrong. */
export function colourFindings({ kit, otherKits, applies }: CheckContext): Finding[] {
  const fitted = { ...kit, parts: kit.parts.filter(applies) };
  return colourMeanings([fitted, ...otherKits.filter((k) => k.id !== kit.id)])
    .filter((m) => m.conflict && m.uses.some((u) => u.kit === kit.id))
    .map((m): Finding => {
      const here = m.uses.filter((u) => u.kit === kit.id);
      const jobs = new Set(here.map((u) => u.job));
      const elsewhere = m.uses.filter((u) => u.kit !== kit.id && !jobs.has(u.job));
      const colour = m.tracer ? `${m.base} with ${m.tracer} tracer` : m.base;
      return {
        rule: "colour-two-meanings",
        level: "note",
        where: here[0]?.contact ?? kit.title,
        text: `${upperFirst([...jobs].join(", "))}: the wire is ${colour}. In ${elsewhere.map((u) => `${u.title} it is ${u.job}`).join("; in ")}.`,
        remedy: "Go by the label and the function, not by the colour.",
      };
    });
}
