/**
 * The job log: everything that happens on a job is an entry, appended and never changed. The state of a job is what
 * folding its entries gives; undo is an entry that takes another one out of the fold.
 */
import type { TestAnswer } from "../diagnose/bench";
import type { TestState } from "../power/feed";
import type { ReadingKind } from "../power/readings";
import type { StripBody } from "../strip/journal";

export type Stage = "intake" | "fit" | "strip" | "connect" | "configure" | "bus" | "prove" | "handover";
export const STAGES: readonly Stage[] = ["intake", "fit", "strip", "connect", "configure", "bus", "prove", "handover"];

export interface CarSheet {
  identification: string;
  plate: string;
  odometerKm: number | null;
  firmware: string;
  faultCodes: string;
  note: string;
}

/** A stored document by identifier and version. */
export interface DocumentPin {
  slug: string;
  version: number;
}

export type EntryBody =
  | { kind: "intake.car"; data: CarSheet }
  | {
      kind: "intake.baseline";
      data: { test: string; result: "pass" | "fail" | "absent"; note: string; photo?: string };
    }
  | { kind: "intake.wishes"; data: { functions: string[] } }
  | { kind: "intake.variant"; data: { variant: DocumentPin; answers: Record<string, string | null> } }
  | { kind: "fit.kit"; data: { kit: DocumentPin; choices: Record<string, string> } }
  | { kind: "fit.signed"; data: { name: string; kit: DocumentPin; choices: Record<string, string>; price: number } }
  | { kind: "fit.confirm"; data: { choices: Record<string, string> } }
  | StripBody
  | { kind: "connect.plug"; data: { link: string; plugged: boolean; at?: string; turned?: boolean } }
  /** A part of the kit lies elsewhere than its profile says. */
  | { kind: "connect.place"; data: { part: string; place: string } }
  /** Something beside the plugs is done: an end parked, a wire insulated. */
  | { kind: "connect.task"; data: { task: string; done: boolean } }
  | { kind: "connect.feedTest"; data: { position: string; state: TestState; lit: boolean } }
  | { kind: "connect.feed"; data: { position: string | null } }
  /** The tester on the new branch of the tap, with the original fuse out. */
  | { kind: "connect.tap"; data: { lit: boolean } }
  | { kind: "connect.reading"; data: { reading: ReadingKind; value: number } }
  | { kind: "configure.switches"; data: { settings: Record<string, string> } }
  | { kind: "configure.set"; data: { setting: string; done: boolean } }
  | { kind: "configure.powerCycle"; data: Record<string, never> }
  | { kind: "bus.file"; data: { file: string; name: string; what: "log" | "dbc" } }
  | { kind: "prove.result"; data: { test: string; answer: TestAnswer; note: string } }
  | { kind: "prove.check"; data: { check: string; answer: string } }
  | { kind: "prove.repair"; data: { fault: string; title: string; remedy: string } }
  | { kind: "handover.point"; data: { text: string } }
  | { kind: "handover.close"; data: { openPoints: string[] } }
  | { kind: "handover.reopen"; data: { reason: string } }
  | { kind: "undo"; data: { entry: string } };

export type EntryKind = EntryBody["kind"];

export type JobEntry = EntryBody & {
  id: string;
  /** ISO 8601, UTC. */
  at: string;
  by: string;
};
