import type { LeadLine } from "./job";
import type { Material } from "./material";

/** Leads and material as one table; lengths in metres, three decimals at most. */
export function lengthTable({
  leads,
  material,
}: {
  leads: readonly LeadLine[];
  material: readonly Material[];
}): Record<string, string | number>[] {
  const round = (n: number) => Math.round(n * 1000) / 1000;
  return [
    ...leads.map(({ lead, name, check, problem }) => ({
      what: name,
      from: lead.from,
      to: lead.to,
      needed: check ? round(check.neededM) : "",
      unit: "m",
      has: check?.hasM ?? "",
      verdict: check?.verdict ?? "no way",
      note: check?.say ?? problem ?? "",
    })),
    ...material.map((m) => ({
      what: m.what,
      from: "",
      to: "",
      needed: m.unit === "pieces" ? Math.ceil(m.amount) : round(m.amount),
      unit: m.unit,
      has: "",
      verdict: "",
      note: m.from,
    })),
  ];
}
