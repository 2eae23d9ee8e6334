/** Lengths and small material of a job. */
import { CoreError } from "../model/errors";
import type { CarProfile, KitLead, KitProfile } from "../model/profile";
import type { System } from "../model/types";
import { isFeedLink } from "../power/feed-link";
import { type Material, materialFor } from "./material";
import { placement } from "./placement";
import { checkLength, type LengthCheck } from "./slack";

export interface LeadLine {
  lead: KitLead;
  name: string;
  /** Null when no way can be planned; then the problem says why. */
  check: LengthCheck | null;
  problem: string | null;
}

/**
 * Every lead of the kit on its way through the car, and what it takes to fix them.
 *
 * @param applies which conditions of the kit hold on this job
 * @param moved place by part, where the technician put it elsewhere than its profile says
 */
export function lengthsOf(
  car: CarProfile,
  kit: KitProfile,
  fitted: System,
  applies: (item: Pick<KitLead, "when">) => boolean,
  moved: ReadonlyMap<string, string>,
): { leads: LeadLine[]; material: Material[] } {
  const leads = placement(kit, applies, moved).leads.flatMap((lead): LeadLine[] => {
    const part = fitted.parts.find((p) => p.id === lead.part);
    if (!part) return [];
    try {
      return [{ lead, name: part.name, check: checkLength(car.runs ?? [], lead, part.lengthM ?? null), problem: null }];
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
      return [{ lead, name: part.name, check: null, problem: `${error.problem} ${error.remedy}` }];
    }
  });
  // What does not reach comes first: it must be ordered.
  leads.sort((a, b) => rank(a) - rank(b));
  const checks = leads.flatMap((l) => l.check ?? []);
  const module = fitted.parts.some((p) => p.id === "module");
  const feedTap = fitted.links.some(isFeedLink);
  const tiedBack = (kit.tiesBack ?? []).filter(applies);
  const counts = checks.length > 0 || tiedBack.length > 0;
  return { leads, material: counts ? materialFor(checks, { feedTap, module, tiedBack }) : [] };
}

function rank({ check }: LeadLine): number {
  return check === null ? 1 : check.verdict === "short" ? 0 : 2;
}
