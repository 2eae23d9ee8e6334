/** What a check of the connections looks at, and what it says. */
import type { Command } from "../../log/entry";
import type { Choices } from "../../model/compose";
import type { CarProfile, KitCondition, KitProfile } from "../../model/profile";
import type { Disturbance, Settings, System } from "../../model/types";

/** `stop`: do not switch on. `watch`: does not work as it should. `note`: mind it while plugging. */
export type FindingLevel = "stop" | "watch" | "note";

/** One violated rule: which, where, why and what to do. */
export interface Finding {
  rule: RuleId;
  level: FindingLevel;
  where: string;
  text: string;
  remedy: string;
  /** What would be damaged if power came on now. */
  damages?: string;
  /** Link concerned, when it is one. */
  link?: string;
  /** What to write into the log when the remedy is the only one. */
  fix?: { say: string; press: Command[] };
}

export type RuleId =
  | "mating"
  | "contact-kind"
  | "microphone-jack"
  | "wrong-place"
  | "exchanged-pair"
  | "reversed"
  | "exchange-risk"
  | "reversible"
  | "direction"
  | "two-drivers"
  | "short-circuit"
  | "factory-plug-open"
  | "supply-missing"
  | "ground-missing"
  | "control-missing"
  | "camera-power"
  | "fuse-missing"
  | "fuse-too-large"
  | "thin-lead"
  | "tap-turned"
  | "ring-open"
  | "reverse-trigger"
  | "bus-termination"
  | "bus-stub"
  | "bus-untwisted"
  | "antenna-on-metal"
  | "vents-covered"
  | "too-hot"
  | "airbag-zone"
  | "usb-unreachable"
  | "colour-two-meanings";

/** A system with what is known of it. */
export interface CheckInput {
  car: CarProfile;
  kit: KitProfile;
  /** The car as built; its connections must be there again or be opened by the kit on purpose. */
  stock: System;
  /** The car with the kit: as planned, or with the leads where they sit. */
  system: System;
  /** What is not plugged or not set at the moment; nothing when the plan itself is checked. */
  open: Disturbance;
  /** As they are to stand. */
  settings: Settings;
  /** Options taken of the kit's choices. */
  choices: Choices;
  /** Which conditions of the kit hold on this job. */
  applies(item: { when?: KitCondition }): boolean;
  /** Where the technician put parts of the kit, when not where its profile says. */
  placed: ReadonlyMap<string, string>;
  /** Other kits of the shop, whose wire colours may mean something else. */
  otherKits: readonly KitProfile[];
}
