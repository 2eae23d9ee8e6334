/** A bus map: the signals of a car that were found, as a document of the library. */
import { CoreError } from "../model/errors";
import { signalBits } from "./dbc-messages";
import { type BareSignal, bareSignal, type FoundSignal } from "./hunt/found";
import { idText } from "./identifier";

export interface MappedSignal extends Omit<BareSignal, "values" | "page"> {
  /** Names of raw values. */
  values: { raw: number; name: string }[];
  /** On one page of a multiplexed message. */
  page?: { startBit: number; length: number; value: number };
  /** Where it is known from. */
  origin: string;
}

export interface BusMap {
  document: "busMap";
  id: string;
  version: number;
  title: string;
  sourceNote: string;
  /** Identifier of the car. */
  car: string;
  signals: MappedSignal[];
}

/** A bus map that contradicts itself. */
export class BusMapError extends CoreError {}

const REMEDY = "Correct the place; nothing was stored.";

/** What of a signal lies outside its message; null when nothing does. */
export function outsideMessage(signal: Pick<FoundSignal, "startBit" | "length" | "littleEndian" | "bytes">) {
  return signalBits(signal).some((b) => b < 0 || b >= 8 * signal.bytes)
    ? `It does not lie inside the ${signal.bytes} bytes of its message.`
    : null;
}

/**
 * Every signal lies inside its message and has a name of its own; an identifier is one message with one name and length.
 *
 * @throws {BusMapError} naming the signal
 */
export function checkBusMap({ signals }: Pick<BusMap, "signals">): void {
  const names = new Set<string>();
  const messages = new Map<string, MappedSignal>();
  for (const s of signals) {
    const outside = outsideMessage(s);
    if (outside) throw new BusMapError(s.signal, outside, REMEDY);
    if (names.has(s.signal)) throw new BusMapError(s.signal, "Two signals have this name.", REMEDY);
    names.add(s.signal);
    const id = idText(s.id, s.extended);
    if (s.id > (s.extended ? 0x1fff_ffff : 0x7ff))
      throw new BusMapError(s.signal, `The identifier ${id} has more than ${s.extended ? 29 : 11} bits.`, REMEDY);
    const one = messages.get(id) ?? s;
    messages.set(id, one);
    if (one.message !== s.message || one.bytes !== s.bytes)
      throw new BusMapError(
        s.signal,
        `The message ${id} is ${one.message} with ${one.bytes} bytes at ${one.signal}, and ${s.message} with ${s.bytes} here.`,
        REMEDY,
      );
  }
}

/** Signals of a map as a job takes them over. */
export function mappedSignals(map: Pick<BusMap, "signals">): FoundSignal[] {
  return map.signals.map(({ origin: _, values, page, ...s }) => ({
    ...s,
    values: values.map((v) => [v.raw, v.name]),
    page: page ?? null,
    file: "",
    thing: "",
  }));
}

/**
 * The map of a car with what a job has found added; a signal of the same name takes the place of the earlier one, and
 * messages keep the name of the map.
 *
 * @param origin where a signal of the job is known from; those that came from the map keep theirs
 */
export function withFound(
  map: BusMap,
  found: readonly FoundSignal[],
  origin: (signal: FoundSignal) => string | null,
): BusMap {
  const signals = new Map(map.signals.map((s) => [s.signal, s]));
  const nameOf = (s: FoundSignal) =>
    map.signals.find((m) => m.id === s.id && m.extended === s.extended)?.message ?? s.message;
  for (const f of found) {
    const known = origin(f);
    if (known === null && signals.has(f.signal)) continue;
    const { values, page, ...s } = bareSignal(f);
    signals.set(f.signal, {
      ...s,
      message: nameOf(f),
      values: values.map(([raw, name]) => ({ raw, name })),
      ...(page ? { page } : {}),
      origin: known ?? "Bus map of the library",
    });
  }
  return { ...map, signals: [...signals.values()] };
}

/** A map in which nothing stands yet. */
export function emptyBusMap({ id, title }: { id: string; title: string }): BusMap {
  return {
    document: "busMap",
    id: `${id}-bus`,
    version: 1,
    title: `${title}: messages`,
    sourceNote: "Found on the cars of this shop.",
    car: id,
    signals: [],
  };
}
