/** The tester's side of a diagnostic conversation with one control unit: ISO-TP, answer times, pending answers. */
import { type IsoTpConfig, type IsoTpFailure, type IsoTpState, idleIsoTp, isoTp, isoTpDue } from "./iso-tp";
import { readAnswer, silent } from "./uds";

export interface TesterState {
  link: IsoTpState;
  /** The request in hand; null when none is. */
  waiting: { request: number[]; dueMs: number; pending: number } | null;
}

export type TesterEvent =
  | { kind: "ask"; request: readonly number[] }
  | { kind: "frame"; data: ArrayLike<number> }
  | { kind: "time" };

/** How a request ended. */
export type Reply =
  | { kind: "positive"; data: number[] }
  | { kind: "refused"; code: number }
  /** Nothing came in time. */
  | { kind: "silence" }
  /** The conversation broke off on the way. */
  | { kind: "broken"; why: IsoTpFailure };

export interface TesterStep {
  state: TesterState;
  frames: number[][];
  reply: Reply | null;
}

/** P2 of ISO 14229-2 with the way through a gateway, and P2* after “response pending”. */
const ANSWER_MS = 250;
const PENDING_MS = 5000;
/** How often a unit may ask for more time; by common practice a write is over within a minute. */
const MAX_PENDING = 12;

export function idleTester(): TesterState {
  return { link: idleIsoTp(), waiting: null };
}

/** When the tester wants to be called with `time`. */
export function testerDue({ link, waiting }: TesterState): number | null {
  const due = [isoTpDue(link), waiting?.dueMs].filter((t) => t !== null && t !== undefined);
  return due.length > 0 ? Math.min(...due) : null;
}

/** One step of the tester. Only one request is in hand at a time; a second one takes the place of the first. */
export function tester(state: TesterState, event: TesterEvent, nowMs: number, config: IsoTpConfig = {}): TesterStep {
  if (event.kind === "ask") return ask(event.request, nowMs, config);
  const link = isoTp(state.link, event, nowMs, config);
  const next: TesterStep = { state: { ...state, link: link.state }, frames: link.frames, reply: null };
  const { waiting } = state;
  if (!waiting) return next;
  // While a long message runs in either direction ISO-TP keeps the time.
  if (link.sent || link.state.rx || link.state.tx)
    next.state.waiting = { ...waiting, dueMs: nowMs + (waiting.pending > 0 ? PENDING_MS : ANSWER_MS) };
  if (link.received) return answered(next, waiting, link.received, nowMs);
  if (link.failure) return ended(next, { kind: "broken", why: link.failure });
  const due = next.state.waiting?.dueMs ?? Number.POSITIVE_INFINITY;
  return event.kind === "time" && nowMs >= due ? ended(next, { kind: "silence" }) : next;
}

function ask(request: readonly number[], nowMs: number, config: IsoTpConfig): TesterStep {
  const link = isoTp(idleIsoTp(), { kind: "send", payload: request }, nowMs, config);
  const state: TesterState = {
    link: link.state,
    waiting: silent(request) ? null : { request: [...request], dueMs: nowMs + ANSWER_MS, pending: 0 },
  };
  const reply: Reply | null = silent(request) ? { kind: "positive", data: [] } : null;
  return { state, frames: link.frames, reply };
}

function answered(
  next: TesterStep,
  waiting: NonNullable<TesterState["waiting"]>,
  message: readonly number[],
  nowMs: number,
): TesterStep {
  const answer = readAnswer(waiting.request, message);
  if (answer.kind === "strange") return next;
  if (answer.kind !== "pending") return ended(next, answer);
  if (waiting.pending + 1 > MAX_PENDING) return ended(next, { kind: "silence" });
  next.state.waiting = { ...waiting, pending: waiting.pending + 1, dueMs: nowMs + PENDING_MS };
  return next;
}

function ended(next: TesterStep, reply: Reply): TesterStep {
  return { ...next, state: idleTester(), reply };
}
