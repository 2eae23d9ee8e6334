import type { KitLead } from "../model/profile";

/** A part may be a lead with several ends; each of its ways is one of its own. */
export function leadId(lead: Pick<KitLead, "part" | "to">): string {
  return `${lead.part} ${lead.to}`;
}
