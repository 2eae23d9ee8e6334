import type { BusMap } from "../bus/bus-map";
import type { OutputProof } from "../bus/translation/proof";
import type { OutputId } from "../bus/translation/translation";
import type { Turn } from "../camera/turn";
import type { UnitEvidence, WordEvidence } from "../coding/evidence";
import type { PairingState } from "../configure/pairing";
import type { PlugState, ProgrammingPlug } from "../configure/programming-plug";
import type { FigureName } from "../model/figures";
import type { SettingMeans } from "../model/profile";
import type { Sense } from "../model/sight";
import type { ContactRef, JointKind } from "../model/types";
import type { WalkOutcome } from "../prove/speaker-walk";
import type { Gate } from "../strip/gate";
import type { JobEntry, JobState } from "./entry";
import type { Refusal } from "./kind";
import type { DocumentPin } from "./kinds/fit/kit";
import type { SightData } from "./kinds/prove/sight";
import type { AddedStep, CarStand, StripEdit } from "./strip-journal";

/** Something of the plan that an entry names, as people call it. */
export interface Named {
  id: string;
  name: string;
}

/** A choice of the kit with its options. */
export interface NamedChoice extends Named {
  options: readonly Named[];
}

/** A setting of the kit with the values it can have. */
export interface SettingFact extends Named {
  /** As it comes out of the box, and as it is to stand. */
  delivered: string;
  planned: string;
  means: SettingMeans;
  /** Outputs of a translation that its part can be told. */
  told: readonly OutputId[];
}

/** A connection of the plan. */
export interface ConnectionFact extends Named {
  /** Places its plug goes into, the planned one first. */
  places: readonly string[];
  reversible: boolean;
  /** What its bare ends are joined to; null where a plug goes in. */
  joint: JointKind | null;
  /** It is a ribbon with a lock bar. */
  ribbon: boolean;
  /** It waits for a fuse position to be taken. */
  awaitsFeed: boolean;
}

/** A position of the fuse panel. */
export interface PositionFact extends Named {
  used: boolean;
  /** Why it is never taken; null when it may be. */
  forbidden: string | null;
  /** Why the tester's answers do not yet allow it; null when they do. */
  notYet: string | null;
}

/** A coded word of the coding map, and what given bytes say. */
export interface WordFact {
  name: string;
  refusal: Refusal | null;
  bytes: number[];
  /** Settings (`part.setting`) as the bytes say them, and all that the word is about. */
  settings: Record<string, string>;
  about: string[];
}

/** What the frames of a session prove. */
export interface SessionFact {
  refusal: Refusal | null;
  units: UnitEvidence[];
  words: (WordEvidence & Pick<WordFact, "settings" | "about">)[];
}

/** Something that is open when the car leaves. */
export interface OpenPointFact {
  text: string;
  /** `blocks`: the car is not ready. `reason`: the lead says why it may stay open. `told`: noted for the customer. */
  level: "blocks" | "reason" | "told";
  /** It concerns the customer. */
  customer: boolean;
}

/** What was offered to the customer, as the job computes it. */
export interface OfferFact {
  kit: DocumentPin;
  title: string;
  choices: Record<string, string>;
  price: number;
  currency: string;
  /** The verdict and what the customer gives up, in sentences. */
  terms: string[];
}

/**
 * What a kind of entry may ask of the job it is written on. The log stands below everything that plans, checks and
 * ranks; `core/job/facts.ts` answers.
 */
export interface JobFacts {
  readonly state: JobState;
  readonly entries: readonly JobEntry[];
  /** When the thing was done, ISO 8601, UTC. */
  readonly at: string;

  /** The kit of the job; null while none is chosen. */
  kit(): (DocumentPin & { title: string }) | null;
  /** Options as they are chosen now. */
  chosen(): Record<string, string>;
  choice(id: string): NamedChoice | null;
  offer(): OfferFact | null;
  /** Title of a document of the library; null when it is not there. */
  document(kind: "variant" | "kit" | "coding" | "busMap", pin: DocumentPin): string | null;
  /** Why a document does not go together with the car; null when it does. */
  clash(kind: "variant" | "kit", pin: DocumentPin, choices: Record<string, string>): Refusal | null;
  /** A function that a customer may wish for. */
  wish(id: string): string | null;
  /** A complete file of the job. */
  file(id: string): { name: string; what: "log" | "dbc" | "photo" } | null;

  /**
   * How the translation did on a log, by its present state; null when that was not computed, or for another state.
   * `same content`: the log is one in which signals were found, under another name.
   */
  proof(file: string): readonly OutputProof[] | "same content" | null;

  /** How the car stands; whether the key still stands so is not known after a long time without an entry. */
  stand(): CarStand & { keyKnown: boolean };
  /** A step that cannot be undone, a hole or a cut, as people call it; null for every other one. */
  lasting(step: string): string | null;
  /** Why the module is without power with the ignition on; null when it has power. */
  noPower(): string | null;
  /** The module runs as the car stands: a change of its switches is not read before it starts anew. */
  isPowered(): boolean;

  baselineTry(id: string): string | null;
  test(id: string): string | null;
  /** By which sense a test is noticed, and where; null when there is no such test. */
  testSense(id: string): { sense: Sense; at: readonly ContactRef[] } | null;
  /** Seconds within which what a test looks for must come; null: any time. */
  testWithinS(id: string): number | null;
  /** Tests that the repair of a fault can have disturbed. */
  retriedAfter(fault: string): string[];
  /** Looks, measurements and exchanges at what the repair of a fault touches. */
  looksAt(fault: string): string[];
  /** Tests that fail now. */
  failing(): readonly (Named & { law: boolean })[];
  /** The plug whose contacts carry the loudspeakers, as people call it; null when the documents do not say. */
  speakerPlug(): string | null;
  /** A test of the touch panel, as people call it. */
  touchTest(id: string): string | null;
  /** A camera of the job, as people call it. */
  camera(id: string): string | null;
  cameraLooks(id: string): "back" | "ahead" | null;
  /** Why the taps of a photo are no measurement of a camera; null when they are. */
  sightRefusal(data: SightData): Refusal | null;
  /** It was measured since it was last turned. */
  cameraMeasured(id: string): boolean;
  /** How it must be turned by what was measured; empty when nothing was. */
  cameraTurns(id: string): readonly Turn[];
  /** A figure of a part or the car, in words; null when there is no such part. */
  figure(of: string, name: FigureName): string | null;
  /** A step of a sequence, as people call it. */
  sequenceStep(sequence: string, step: string): string | null;
  /** A key, the knob or a sign of the bus, in words. */
  use(id: string): string | null;
  /** Clicks by which a knob is turned when its steps are counted. */
  knobClicks(): number;
  /** What follows from the walk with balance and fader. */
  walk(): WalkOutcome | null;
  /** A look or measurement of the search; `answerOf` says which answer a value is, null where none is measured. */
  look(id: string): (NamedChoice & { unit: string | null; answerOf(value: number): string | null }) | null;
  fault(id: string): { title: string; remedy: string; normal: boolean } | null;

  /** A step of the strip plan or a preparation step. */
  step(id: string, direction?: "in" | "back"): string | null;
  stepRefusal(step: string, direction: "in" | "back"): Refusal | null;
  /** Why an edit of the plan on the car cannot be followed. */
  editRefusal(edit: StripEdit): Refusal | null;
  gate(): Gate;
  addedStep(id: string): AddedStep | null;

  connection(link: string): ConnectionFact | null;
  /** Something to do beside the plugs. */
  task(id: string): string | null;
  /** A part of the kit that can lie elsewhere, with the place where it lies now. */
  movable(part: string): (Named & { place: string }) | null;
  places(): readonly string[];
  /** Why the kit asks for no feed from the fuse panel; null when it does. */
  noFeedNeeded(): string | null;
  position(id: string): PositionFact | null;

  setting(id: string): SettingFact | null;
  /** How the setting stands follows from a coded word or the firmware. */
  isKnown(id: string): boolean;
  /** The programming plug of the kit as it stands; null without one. */
  programmingPlug(): { plug: ProgrammingPlug; state: PlugState } | null;
  /** Phones whose first pairing was begun; null for a kit whose leaflet says nothing about phones. */
  phones(): { families: readonly Named[]; phones: readonly PairingState[] } | null;
  /** The next update of the firmware; null when none is to be made. */
  nextUpdate(): { from: string; to: string } | null;
  /** Title of the coding map of the job; null while none is taken. */
  codingMap(): string | null;
  /** Why a coding map or a bus map is not for this car. */
  mapClash(kind: "coding" | "busMap", pin: DocumentPin): Refusal | null;
  busMap(pin: DocumentPin): BusMap | null;
  /** A word of the coding map, read from bytes in any spacing; null when the map has no such word. */
  word(ref: string, hex?: string): WordFact | null;
  /** @param log `candump -L` */
  session(log: string): SessionFact;
  /** What each way out of a conflict between functions gives up; empty when there is none, or one is taken. */
  waysOut(): readonly (readonly Named[])[];
  /** The switches of the bank as settings, with the values for on and off; null without a bank. */
  bank(): { switches: readonly string[]; on: string; off: string } | null;

  /** What is still open when the car leaves, computed and noted. */
  openPoints(): readonly OpenPointFact[];
  openPoint(id: string): OpenPointFact | null;
}
