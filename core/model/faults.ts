import { cavityFaults } from "./fault-kinds/cavities";
import { deadFault } from "./fault-kinds/devices";
import { leadFaults } from "./fault-kinds/leads";
import { plugFaults } from "./fault-kinds/plugs";
import { settingFaults } from "./fault-kinds/settings";
import type { KitSetting, SwitchBank } from "./profile";
import type { AssumedState, Disturbance, System } from "./types";

/** One thing that can be wrong, as a change of the system. */
export interface Fault {
  id: string;
  kind:
    | "leadOpen"
    | "notPlugged"
    | "exchanged"
    | "otherSocket"
    | "reversed"
    | "pushedBack"
    | "crossed"
    | "dead"
    | "setting"
    | "assumed";
  title: string;
  cause: string;
  remedy: string;
  /** Parts and links it concerns; checks look at these. */
  parts: string[];
  links: string[];
  /** Normal behaviour that only looks like a fault. */
  normal: boolean;
  /**
   * Relative frequency before anything was tried. Our assumption, not measured: from the order in which domain
   * experience ranks mistakes (connections before settings before broken parts); only the ratios matter.
   */
  weight: number;
  disturbance: Disturbance;
}

/** What a job changes on the car; the faults of what nobody touched weigh little. */
export interface Touched {
  /** Identifiers of the parts that the kit brings. */
  parts: ReadonlySet<string>;
  /** Identifiers of the links that were made or opened. */
  links: ReadonlySet<string>;
  bank?: SwitchBank;
  /** Values of the settings as they should stand, by `part.setting`. */
  planned: Readonly<Record<string, string>>;
  /** What the job sets beside the switch bank. */
  sets?: readonly KitSetting[];
}

/**
 * All single faults of a system: every lead open (whole and by conductor), every plug not home or turned over, every two
 * that can be exchanged, every plug in a free socket that takes it, every contact of a plug that was opened, every device
 * dead, every setting at its other values, every assumed state of the profiles. The loom itself is taken as sound.
 */
export function singleFaults(system: System, touched: Touched): Fault[] {
  return [
    ...system.parts.flatMap(leadFaults),
    ...plugFaults(system, touched),
    ...cavityFaults(system, touched),
    ...system.parts.filter((p) => p.type === "device").map((p) => deadFault(p, touched.parts)),
    ...settingFaults(system, touched),
    ...system.assumed.map(assumedFault),
  ];
}

function assumedFault(assumed: AssumedState): Fault {
  return {
    id: `state:${assumed.id}`,
    kind: "assumed",
    title: assumed.title,
    cause: assumed.cause,
    remedy: assumed.remedy,
    parts: [],
    links: [],
    normal: assumed.normal,
    weight: assumed.weight,
    disturbance: { assumed: [assumed] },
  };
}
