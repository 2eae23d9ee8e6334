/** What the leaflet of a kit says about phones. */
import { z } from "zod";
import type { PairingRules } from "../../../core/configure/pairing";
import { words } from "./head";

export const phonesLeaflet = z.strictObject({
  first: z
    .enum(["wireless", "cable", "either"])
    .default("either")
    .describe("How a phone first meets the module; either: chosen in the job"),
  families: z
    .array(
      z.strictObject({
        name: words.describe("Phones of this kind"),
        addedFrom: z.enum(["module", "phone"]).describe("Added from the module's screen or the phone's Bluetooth list"),
        where: words.optional().describe("Way through the menus"),
      }),
    )
    .max(12)
    .default([])
    .describe("Phones that are added in the same way"),
  shownAs: words.optional().describe("Name of the module in the phone's list"),
  pin: z
    .union([z.literal("compare"), z.string().regex(/^\d{4,8}$/, "4 to 8 digits, or compare")])
    .optional()
    .describe("PIN that is asked for; compare: both show the same number"),
  asksPriority: z.boolean().default(false).describe("Asks which phone comes first"),
});
type PhonesLeaflet = z.infer<typeof phonesLeaflet>;

/** @param choice of the kit that decides how a phone first meets it, where the leaflet leaves that open */
export function phoneRules(
  { first, families, shownAs, pin, asksPriority }: PhonesLeaflet,
  gives: PairingRules["gives"],
  choice = "pairing",
): PairingRules {
  return {
    gives,
    first: first === "either" ? { choice } : first,
    families: families.map((f) => ({
      id: f.name.toLowerCase().replace(/[^a-z0-9]+/g, "-"),
      name: f.name,
      addedFrom: f.addedFrom,
      ...(f.where ? { where: f.where } : {}),
    })),
    ...(shownAs ? { shownAs } : {}),
    ...(pin ? { pin } : {}),
    ...(asksPriority ? { asksPriority } : {}),
  };
}
