/**
 * Messages longer than a frame on a CAN bus: ISO 15765-2 (from memory) for classic frames, as a state machine without
 * clock and without bus. Times come in as milliseconds of any clock that does not jump; frames go out as data bytes.
 */

/** One side of a conversation. Plain data, so that it can be stored between two steps. */
export interface IsoTpState {
  /** What is being sent. */
  tx: Sending | null;
  /** What is being received. */
  rx: Receiving | null;
}

interface Sending {
  payload: number[];
  /** Bytes sent so far. */
  sent: number;
  /** Sequence number of the next consecutive frame. */
  number: number;
  phase: "flow" | "frames";
  /** Frames left until the other side is asked again; null when it wants no pause. */
  block: number | null;
  separationMs: number;
  /** When the next step is due: the next frame, or the end of patience. */
  dueMs: number;
  /** How often the other side has asked to wait in a row. */
  waits: number;
}

interface Receiving {
  payload: number[];
  length: number;
  number: number;
  /** Frames left until a flow control is due; null when all may come at once. */
  block: number | null;
  dueMs: number;
}

export interface IsoTpConfig {
  /** Extended addressing: the first data byte of frames to the other side and of those meant for this one. */
  extended?: { to: number; own: number };
  /** Byte that fills every frame to eight; without it frames are as short as they can be. */
  padding?: number;
  /** Asked of a sender: frames until the next flow control, 0 for all at once, and the time between two frames. */
  blockSize?: number;
  separationMs?: number;
  /** Longest message that is taken. */
  maxLength?: number;
}

export type IsoTpEvent =
  | { kind: "send"; payload: ArrayLike<number> }
  | { kind: "frame"; data: ArrayLike<number> }
  | { kind: "time" };

/** Why a message did not come through. */
export type IsoTpFailure =
  /** The other side did not answer the first frame, or not after a block (N_Bs). */
  | "no flow control"
  /** A consecutive frame did not come (N_Cr). */
  | "frame missing"
  | "wrong sequence"
  | "too long for the other side"
  | "too long"
  | "kept waiting"
  /** A new message began before the old one was complete. */
  | "interrupted"
  | "busy";

export interface IsoTpStep {
  state: IsoTpState;
  frames: number[][];
  /** A message that is complete. */
  received: number[] | null;
  /** The message in hand went out completely with this step. */
  sent: boolean;
  failure: IsoTpFailure | null;
}

/** N_Bs and N_Cr of ISO 15765-2. */
const PATIENCE_MS = 1000;
/** How often in a row the other side may say “wait”; ISO 15765-2 leaves the number to the maker. */
const MAX_WAITS = 10;
const LONGEST = 65_535;

export function idleIsoTp(): IsoTpState {
  return { tx: null, rx: null };
}

/** When the machine wants to be called with `time`; null when it waits for nothing. */
export function isoTpDue({ tx, rx }: IsoTpState): number | null {
  const due = [tx?.dueMs, rx?.dueMs].filter((t) => t !== undefined);
  return due.length > 0 ? Math.min(...due) : null;
}

/**
 * One step: a message to send, a frame that came, or time that passed.
 *
 * A frame that is none of ISO 15765-2, or not meant for this side, changes nothing.
 */
export function isoTp(state: IsoTpState, event: IsoTpEvent, nowMs: number, config: IsoTpConfig = {}): IsoTpStep {
  switch (event.kind) {
    case "send":
      return send(state, [...Array.from(event.payload)], nowMs, config);
    case "frame":
      return receive(state, Array.from(event.data), nowMs, config);
    case "time":
      return passTime(state, nowMs, config);
  }
}

function step(state: IsoTpState, more: Partial<Omit<IsoTpStep, "state">> = {}): IsoTpStep {
  return { state, frames: [], received: null, sent: false, failure: null, ...more };
}

function send(state: IsoTpState, payload: number[], nowMs: number, config: IsoTpConfig): IsoTpStep {
  if (state.tx) return step(state, { failure: "busy" });
  if (payload.length === 0 || payload.length > LONGEST) return step(state, { failure: "too long" });
  const room = roomOf(config);
  if (payload.length < room) return step(state, { frames: [frame([payload.length, ...payload], config)], sent: true });
  const head =
    payload.length <= 0xfff
      ? [0x10 | (payload.length >> 8), payload.length & 0xff]
      : [0x10, 0, ...[24, 16, 8, 0].map((s) => (payload.length >>> s) & 0xff)];
  const sent = room - head.length;
  const tx: Sending = {
    payload,
    sent,
    number: 1,
    phase: "flow",
    block: null,
    separationMs: 0,
    dueMs: nowMs + PATIENCE_MS,
    waits: 0,
  };
  return step({ ...state, tx }, { frames: [frame([...head, ...payload.slice(0, sent)], config)] });
}

function receive(state: IsoTpState, bytes: number[], nowMs: number, config: IsoTpConfig): IsoTpStep {
  if (config.extended && bytes[0] !== config.extended.own) return step(state);
  const data = config.extended ? bytes.slice(1) : bytes;
  const [first] = data;
  if (first === undefined) return step(state);
  switch (first >> 4) {
    case 0:
      return singleFrame(state, data, config);
    case 1:
      return firstFrame(state, data, nowMs, config);
    case 2:
      return consecutiveFrame(state, data, nowMs, config);
    case 3:
      return flowControl(state, data, nowMs, config);
    default:
      return step(state);
  }
}

function singleFrame(state: IsoTpState, data: number[], config: IsoTpConfig): IsoTpStep {
  const length = (data[0] ?? 0) & 15;
  if (length === 0 || length >= roomOf(config) || data.length < length + 1) return step(state);
  return step(
    { ...state, rx: null },
    { received: data.slice(1, length + 1), failure: state.rx ? "interrupted" : null },
  );
}

function firstFrame(state: IsoTpState, data: number[], nowMs: number, config: IsoTpConfig): IsoTpStep {
  const room = roomOf(config);
  if (data.length < room) return step(state);
  const short = (((data[0] ?? 0) & 15) << 8) | (data[1] ?? 0);
  const head = short > 0 ? 2 : 6;
  const length = short > 0 ? short : data.slice(2, 6).reduce((sum, b) => sum * 256 + b, 0);
  // What fits a single frame, or needs no escape, is not sent like this.
  if (length < room || (head === 6 && length <= 0xfff)) return step(state);
  const failure = state.rx ? "interrupted" : null;
  if (length > (config.maxLength ?? LONGEST))
    return step({ ...state, rx: null }, { frames: [flow(2, config)], failure: "too long" });
  const rx: Receiving = {
    payload: data.slice(head, room),
    length,
    number: 1,
    block: config.blockSize || null,
    dueMs: nowMs + PATIENCE_MS,
  };
  return step({ ...state, rx }, { frames: [flow(0, config)], failure });
}

function consecutiveFrame(state: IsoTpState, data: number[], nowMs: number, config: IsoTpConfig): IsoTpStep {
  const { rx } = state;
  if (!rx) return step(state);
  if (((data[0] ?? 0) & 15) !== rx.number) return step({ ...state, rx: null }, { failure: "wrong sequence" });
  const missing = rx.length - rx.payload.length;
  const piece = data.slice(1, 1 + Math.min(missing, roomOf(config) - 1));
  const full = Math.min(missing, roomOf(config) - 1);
  if (piece.length < full) return step(state);
  const payload = [...rx.payload, ...piece];
  if (payload.length === rx.length) return step({ ...state, rx: null }, { received: payload });
  const left = rx.block === null ? null : rx.block - 1;
  const ask = left === 0;
  const next = {
    ...rx,
    payload,
    number: (rx.number + 1) & 15,
    block: ask ? (config.blockSize ?? null) : left,
    dueMs: nowMs + PATIENCE_MS,
  };
  return step({ ...state, rx: next }, { frames: ask ? [flow(0, config)] : [] });
}

function flowControl(state: IsoTpState, data: number[], nowMs: number, config: IsoTpConfig): IsoTpStep {
  const { tx } = state;
  if (tx?.phase !== "flow" || data.length < 3) return step(state);
  const [status = 0, block = 0, separation = 0] = data;
  switch (status & 15) {
    case 0:
      return passTime(
        {
          ...state,
          tx: {
            ...tx,
            phase: "frames",
            block: block || null,
            separationMs: separationMs(separation),
            dueMs: nowMs,
            waits: 0,
          },
        },
        nowMs,
        config,
      );
    case 1:
      if (tx.waits + 1 > MAX_WAITS) return step({ ...state, tx: null }, { failure: "kept waiting" });
      return step({ ...state, tx: { ...tx, waits: tx.waits + 1, dueMs: nowMs + PATIENCE_MS } });
    case 2:
      return step({ ...state, tx: null }, { failure: "too long for the other side" });
    default:
      return step({ ...state, tx: null }, { failure: "no flow control" });
  }
}

/** Sends what is due by now; ends what waited too long. */
function passTime(state: IsoTpState, nowMs: number, config: IsoTpConfig): IsoTpStep {
  if (state.rx && nowMs >= state.rx.dueMs) return step({ ...state, rx: null }, { failure: "frame missing" });
  if (!state.tx || nowMs < state.tx.dueMs) return step(state);
  if (state.tx.phase === "flow") return step({ ...state, tx: null }, { failure: "no flow control" });
  const tx = { ...state.tx };
  const frames: number[][] = [];
  const room = roomOf(config) - 1;
  while (tx.phase === "frames" && tx.dueMs <= nowMs) {
    frames.push(frame([0x20 | tx.number, ...tx.payload.slice(tx.sent, tx.sent + room)], config));
    tx.sent += room;
    tx.number = (tx.number + 1) & 15;
    tx.dueMs = nowMs + tx.separationMs;
    if (tx.sent >= tx.payload.length) return step({ ...state, tx: null }, { frames, sent: true });
    if (tx.block !== null && --tx.block === 0) {
      tx.phase = "flow";
      tx.dueMs = nowMs + PATIENCE_MS;
    } else if (tx.separationMs > 0) break;
  }
  return step({ ...state, tx }, { frames });
}

/** Bytes of a frame beside the address. */
function roomOf(config: IsoTpConfig): number {
  return config.extended ? 7 : 8;
}

function frame(bytes: number[], { extended, padding }: IsoTpConfig): number[] {
  const whole = extended ? [extended.to, ...bytes] : bytes;
  return padding === undefined ? whole : [...whole, ...Array(8 - whole.length).fill(padding)];
}

function flow(status: number, config: IsoTpConfig): number[] {
  return frame([0x30 | status, config.blockSize ?? 0, separationByte(config.separationMs ?? 0)], config);
}

/** Separation time in milliseconds: 00 to 7F whole ones, F1 to F9 tenths; reserved values mean the longest. */
function separationMs(byte: number): number {
  if (byte <= 0x7f) return byte;
  return byte >= 0xf1 && byte <= 0xf9 ? (byte - 0xf0) / 10 : 0x7f;
}

function separationByte(ms: number): number {
  return ms > 0 && ms < 1 ? 0xf0 + Math.max(1, Math.round(ms * 10)) : Math.min(0x7f, Math.round(ms));
}
