/** Opening the unit for a board inside the radio or behind the glass, and the way back to untouched. */
import { z } from "zod";
import type { KitNeed, KitStep } from "../../../../core/model/profile";
import type { PortRef } from "../../../../core/model/types";
import { tool } from "../common";
import { words } from "../head";

/** Sockets of a radio or a console into which the car or the kit may plug something. */
const SOCKETS = ["USB", "satellite antenna", "line input"] as const;
const SOCKET_PORT: Record<(typeof SOCKETS)[number], PortRef> = {
  USB: "usbPanel.front",
  "satellite antenna": "radio.satellite",
  "line input": "radio.aux",
};

const screws = z.strictObject({
  count: z.int().min(1).max(40).describe("How many"),
  lengthMm: z.number().positive().max(80).describe("Length, mm"),
  place: words.describe("Where they sit"),
});

/** What the leaflet says about opening the unit. */
export const openingLeaflet = z.strictObject({
  screws: z.array(screws).min(1).max(4).describe("Screws of the unit, each length for itself"),
  drive: words.default("T8").describe("Drive of the screws"),
  contacts: z.enum(["towards the board", "away from the board"]).describe("Ribbon contacts look"),
  spacers: z.int().min(0).max(12).default(0).describe("Spacers under the board"),
  brackets: z.boolean().default(true).describe("Brackets left and right, to be marked"),
  socketOut: words.optional().describe("Socket taken out so that the leads find a way"),
  socketIs: z.enum(SOCKETS).optional().describe("What plugs into that socket"),
});
type Opening = z.infer<typeof openingLeaflet>;

/** What is opened: the radio with its glass, or the upper screen. */
const UNITS: Record<"radio" | "screen", { name: string; behind: PortRef; ribbon: [PortRef, PortRef] }> = {
  radio: { name: "Radio", behind: "radio.main", ribbon: ["displayLead.radioEnd", "radio.video"] },
  screen: { name: "Upper screen", behind: "screen.supply", ribbon: ["displayLead.screenEnd", "screen.video"] },
};

/**
 * Steps of the kit behind the way into the car; none when the leaflet does not say how the unit opens.
 *
 * @param more ribbons that come off beside that of the picture
 */
export function openingSteps(
  o: Opening | undefined,
  unit: keyof typeof UNITS,
  more: readonly [PortRef, PortRef][],
): KitStep[] {
  if (!o) return [];
  const { name, behind, ribbon } = UNITS[unit];
  const ribbons = [ribbon, ...more];
  const lengths = o.screws.map((s) => `${s.count} of ${s.lengthMm} mm ${s.place}`).join(", ");
  const mark = o.brackets ? " Mark the brackets left and right before they come off." : "";
  const open: KitStep = {
    id: "kit-unit-open",
    title: `${name} opened on the mat`,
    detail: `Wrist strap on. Screws: ${lengths}.${mark}`,
    back: {
      title: `${name} closed`,
      detail: `${o.brackets ? "Brackets by their marks. " : ""}Each length where it was: ${lengths}. A long screw in a short place goes into the board.`,
    },
    behind,
    after: [],
    minutes: { low: 5, likely: 8, high: 15 },
    tool: o.drive,
    level: "upper",
    panel: `${name.toLowerCase()} cover`,
    fasteners: o.screws.map((s, i) => ({
      kind: `${o.drive} screw`,
      count: s.count,
      lengthMm: s.lengthMm,
      tray: `U${i + 1}`,
      place: s.place,
    })),
    reaches: { ports: ribbons.flat() },
    caution: "Static charge kills boards: mat and wrist strap before the cover is off.",
  };
  const standing = o.spacers > 0 ? ` The board stands on its ${o.spacers} spacers, nothing under it.` : "";
  const off: KitStep = {
    id: "kit-ribbon-off",
    title: ribbons.length > 1 ? "Ribbons out of their sockets" : "Ribbon out of its socket",
    detail: `Lock bar up first, then pull straight. Its contacts look ${o.contacts}: note it.`,
    back: {
      title: "Ribbons home, locks shut",
      detail: `Contacts ${o.contacts}, pushed in evenly up to the line, then the lock bar down.${standing}`,
    },
    after: [open.id],
    minutes: { low: 1, likely: 2, high: 5 },
    level: "upper",
    opens: ribbons.map(([a, b]) => ({ a, b, lock: "slide", how: "Lift the lock bar, pull straight." })),
  };
  if (!o.socketOut) return [open, off];
  const frees = o.socketIs && SOCKET_PORT[o.socketIs];
  const way: KitStep = {
    id: "kit-socket-out",
    title: `${o.socketOut} out: the leads go through its opening`,
    detail:
      "Nothing is drilled. The socket goes into the bag with the customer's parts: untouched means it is in again.",
    back: { title: "Leads through the opening, edge taped", detail: "No lead under the cover, none over an edge." },
    after: [open.id],
    minutes: { low: 1, likely: 3, high: 6 },
    level: "upper",
    ...(frees ? { frees } : {}),
  };
  return [open, off, way];
}

export function openingNeeds(o: Opening | undefined): KitNeed[] {
  return [tool("Anti-static mat and wrist strap"), tool(`${o?.drive ?? "T8"} driver`)];
}
