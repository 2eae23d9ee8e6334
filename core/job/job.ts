import type { BusMap } from "../bus/bus-map";
import type { OutputProof } from "../bus/translation/proof";
import type { CodingMap } from "../coding/map";
import type { Finding } from "../connect/rules";
import type { Documents } from "../fit/resolve-fit";
import type { Command, EntryBody, JobEntry, JobState } from "../log/entry";
import type { JobFacts } from "../log/facts";
import { foldJob } from "../log/fold";
import type { DocumentPin } from "../log/kinds/fit/kit";
import { CoreError } from "../model/errors";
import type { CarProfile, KitProfile, VariantProfile } from "../model/profile";
import type { StripView } from "../strip/view";
import { noKit, noVariant } from "./blank";
import { type BoardLine, boardLine } from "./board-line";
import { jobStripView } from "./car-state";
import { checkNow } from "./connect";
import { factsOf } from "./facts";
import { type NextAction, nextAction } from "./order/order";
import { type JobPlan, planJob, planKey } from "./plan";

/** A document that a job is pinned to is not in the library. */
export class MissingDocument extends CoreError {}

/** Documents that a job names in its log, in their versions. */
export type PinnedDocument = VariantProfile | KitProfile | CodingMap | BusMap;
export type PinnedKind = PinnedDocument["document"];

/** What a job asks of the shop around it; everything named in its entries or in a press is at hand. */
export interface Outside {
  document(kind: PinnedKind, pin: DocumentPin): PinnedDocument | null;
  /** A complete file of this job. */
  file(id: string): { name: string; what: "log" | "dbc" | "photo" } | null;
  /** How a translation did on a log, by `proofKey`; null when nobody has computed it. */
  proof(key: string): readonly OutputProof[] | "same content" | null;
  /** Name of a function that some kit of the library gives. */
  wish(id: string): string | null;
  /** ISO 4217. */
  currency: string;
}

/** The documents with which a job was opened; what was still to be found is null. */
export interface OpenedWith {
  car: CarProfile;
  variant: VariantProfile | null;
  kit: KitProfile | null;
}

/** Keeps plans by what they follow from. */
export interface PlanStore {
  plan(key: string, make: () => JobPlan): JobPlan;
}

/** A store for as long as somebody holds it: for one import, one demonstration, one test. */
export function ownStore(): PlanStore {
  const plans = new Map<string, JobPlan>();
  return {
    plan(key, make) {
      const plan = plans.get(key) ?? make();
      plans.set(key, plan);
      return plan;
    },
  };
}

/** A job at one version of its log. Everything is computed when it is first asked for, and once. */
export class Job {
  private folded: JobState | null = null;
  private planned: JobPlan | null = null;
  private readonly made = new Map<string, unknown>();
  private seen: { now: string; view: StripView } | null = null;
  private coming: { now: string; action: NextAction } | null = null;

  constructor(
    readonly opened: OpenedWith,
    readonly entries: readonly JobEntry[],
    readonly outside: Outside,
    private readonly store: PlanStore = ownStore(),
  ) {}

  get state(): JobState {
    this.folded ??= foldJob(this.entries);
    return this.folded;
  }

  /** @throws {MissingDocument} when the library does not have what the log names */
  get documents(): Documents {
    const { car } = this.opened;
    const { variant, kit } = this.state;
    return {
      car,
      variant: variant ? this.pinned("variant", variant) : (this.opened.variant ?? noVariant(car)),
      kit: kit ? this.pinned("kit", kit) : (this.opened.kit ?? noKit()),
    };
  }

  /** The coding map that was taken for this job; null while none is. @throws {MissingDocument} */
  get codingMap(): CodingMap | null {
    const { codingMap } = this.state;
    return codingMap && this.pinned("coding", codingMap);
  }

  private pinned<K extends PinnedKind>(kind: K, pin: DocumentPin): Extract<PinnedDocument, { document: K }> {
    const found = this.outside.document(kind, pin);
    if (found?.document === kind) return found as Extract<PinnedDocument, { document: K }>;
    throw new MissingDocument(
      `${kind} “${pin.slug}”, version ${pin.version}`,
      "the job is pinned to it and the library does not have it.",
      "Import the document again, then load the page.",
    );
  }

  /** @throws {CoreError} when the documents do not go together */
  get plan(): JobPlan {
    if (!this.planned) {
      const { documents, state } = this;
      this.planned = this.store.plan(planKey(documents, state), () => planJob(documents, state));
    }
    return this.planned;
  }

  /** What is wrong with the car as it is plugged now. */
  get findings(): Finding[] {
    return this.once("findings", () => checkNow(this.plan, this.state));
  }

  /** Something that follows from this version of the job and from the key, computed once. */
  once<T>(key: string, make: () => T): T {
    if (!this.made.has(key)) this.made.set(key, make());
    return this.made.get(key) as T;
  }

  /** The strip view of a moment, ISO 8601, UTC. */
  strip(now: string): StripView {
    if (this.seen?.now !== now) this.seen = { now, view: jobStripView(this.plan, this.state, now) };
    return this.seen.view;
  }

  /** What is to be done next at a moment, ISO 8601, UTC. */
  next(now: string): NextAction {
    if (this.coming?.now !== now) this.coming = { now, action: nextAction(this, now) };
    return this.coming.action;
  }

  boardLine(now: string): BoardLine {
    return boardLine(this, now);
  }

  /** What kinds of entries may ask, for something done at a moment. */
  facts(at: string): JobFacts {
    return factsOf(this, at);
  }

  /** The job as it was before its entry of a number. */
  upTo(position: number): Job {
    return new Job(this.opened, this.entries.slice(0, position), this.outside, this.store);
  }

  /**
   * The job as it stood at a moment, ISO 8601, UTC: without what was done later, though it was written before. What was
   * taken back since never counted.
   */
  asOf(at: string): Job {
    const entries = this.entries.filter((e) => e.at <= at || e.kind === "undo");
    return entries.length === this.entries.length ? this : new Job(this.opened, entries, this.outside, this.store);
  }

  /** The job after more entries. */
  with(entries: readonly JobEntry[]): Job {
    return new Job(this.opened, [...this.entries, ...entries], this.outside, this.store);
  }
}

/** A document by kind and pin. */
export interface NamedPin {
  kind: PinnedKind;
  pin: DocumentPin;
}

/** Documents that entries or commands name, so that they can be fetched before the job is asked. */
export function pinsOf(bodies: readonly (EntryBody | Command)[]): NamedPin[] {
  return bodies.flatMap((b): NamedPin[] => {
    if (b.kind === "intake.variant") return [{ kind: "variant", pin: b.data.variant }];
    if (b.kind === "fit.kit") return [{ kind: "kit", pin: b.data.kit }];
    if (b.kind === "configure.map") return [{ kind: "coding", pin: b.data.map }];
    if (b.kind === "bus.map") return [{ kind: "busMap", pin: b.data.map }];
    return [];
  });
}
