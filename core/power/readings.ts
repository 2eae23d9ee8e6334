/** Meter readings: read as people write them, and interpreted against what they should be. */
import { READING_KINDS, type ReadingKind } from "../log/kinds/connect/reading";
import { parallelOhm } from "./wire";

interface Window {
  /** Up to and without this value. */
  below: number;
  tone: "good" | "watch" | "stop";
  says: string;
  causes: string[];
}

export interface ReadingSpec {
  kind: ReadingKind;
  label: string;
  unit: "V" | "Ω";
  /** How to hold the meter and how the car must stand. */
  how: string;
  most: number;
  windows: Window[];
}

const w = (below: number, tone: Window["tone"], says: string, ...causes: string[]): Window => ({
  below,
  tone,
  says,
  causes,
});
const END = Number.POSITIVE_INFINITY;
/** Two terminators of 120 ohm side by side. ISO 11898-2 (from memory). */
const TERMINATED = parallelOhm(120, 120);

/** What can be measured, with expected windows. Bus levels: ISO 11898-2 (from memory). Supply: common practice. */
export const READINGS: readonly ReadingSpec[] = [
  {
    kind: "battery",
    ...READING_KINDS.battery,
    how: "Meter across the battery, engine off, with the maintainer if it is on.",
    windows: [
      w(11.8, "stop", "Empty.", "Ignition was on too long", "Battery at its end"),
      w(12.5, "watch", "Too little to write anything.", "Connect a maintainer, wait until it holds"),
      w(15, "good", "Enough to write."),
      w(END, "stop", "Too high.", "Charger in a wrong mode", "Generator regulator"),
    ],
  },
  {
    kind: "supplyOff",
    ...READING_KINDS.supplyOff,
    how: "Red on the feed, black on bare body, car asleep.",
    windows: [
      w(0.5, "good", "Off, as it must be."),
      w(
        9,
        "watch",
        "Neither on nor off.",
        "A control unit is still awake: wait until the car sleeps",
        "Leakage through another consumer",
      ),
      w(
        END,
        "stop",
        "Live with the key off.",
        "An always-live circuit: it would empty the battery",
        "Wrong position of the fuse panel",
      ),
    ],
  },
  {
    kind: "supplyOn",
    ...READING_KINDS.supplyOn,
    how: "Red on the feed, black on bare body, engine off.",
    windows: [
      w(0.5, "stop", "No supply.", "Fuse missing or blown", "Wrong position", "Lead open"),
      w(11.5, "watch", "Low.", "Battery low: connect a maintainer", "Bad contact: measure the drop under load"),
      w(13, "good", "As a resting battery gives."),
      w(15, "good", "As with engine or maintainer running."),
      w(END, "stop", "Too high.", "Charger in a wrong mode", "Generator regulator"),
    ],
  },
  {
    kind: "supplyCrank",
    ...READING_KINDS.supplyCrank,
    how: "Meter on minimum, engine started once.",
    windows: [
      w(
        6,
        "stop",
        "Gone while cranking.",
        "The circuit is dropped for the start: the session drops",
        "Battery at its end",
      ),
      w(9, "watch", "Deep dip.", "Most modules restart under 9 V", "Battery weak or cold"),
      w(END, "good", "Holds."),
    ],
  },
  {
    kind: "drop",
    ...READING_KINDS.drop,
    how: "One probe on battery plus, the other on the module's supply contact, module playing. Then the same for ground.",
    windows: [
      w(0.3, "good", "Small, as it must be."),
      w(0.6, "watch", "More than a good joint has.", "Thin or long lead", "Crimp or ground point loose"),
      w(END, "stop", "Too much.", "Bad crimp, corroded or painted ground", "Shared through a thin lead"),
    ],
  },
  {
    kind: "pairOhm",
    ...READING_KINDS.pairOhm,
    how: "Battery off, car asleep, meter between bus high and bus low.",
    windows: [
      w(5, "stop", "Short between the wires.", "Pinched pair", "A wire in the wrong cavity"),
      w(30, "stop", "Far too low.", "Several terminators too many", "A module that shorts the pair"),
      w(50, "watch", "One terminator too many.", "The added module has its own: switch it off"),
      w(70, "good", `Both terminators are there (${TERMINATED} Ω expected).`),
      w(100, "watch", "Higher than with two terminators.", "Bad contact in the pair"),
      w(140, "stop", "One terminator is missing (120 Ω).", "Pair open behind the tap", "A factory plug left open"),
      w(END, "stop", "No terminator in reach.", "Pair open on both sides", "Not the bus pair"),
    ],
  },
  {
    kind: "busHigh",
    ...READING_KINDS.busHigh,
    how: "A meter shows the mean: a little above 2.5 V with traffic.",
    windows: [
      w(1, "stop", "Too low.", "Short to body", "Bus asleep: ignition off?"),
      w(2.45, "stop", "Under the middle: this is bus low, or the pair is exchanged.", "High and low exchanged"),
      w(2.55, "watch", "Exactly in the middle.", "No traffic: control units asleep"),
      w(3.6, "good", "Traffic on bus high."),
      w(END, "stop", "Too high.", "Short to battery", "Not a bus wire"),
    ],
  },
  {
    kind: "busLow",
    ...READING_KINDS.busLow,
    how: "A meter shows the mean: a little under 2.5 V with traffic.",
    windows: [
      w(1, "stop", "Too low.", "Short to body", "Bus asleep: ignition off?"),
      w(2.45, "good", "Traffic on bus low."),
      w(2.55, "watch", "Exactly in the middle.", "No traffic: control units asleep"),
      w(3.6, "stop", "Above the middle: this is bus high, or the pair is exchanged.", "High and low exchanged"),
      w(END, "stop", "Too high.", "Short to battery", "Not a bus wire"),
    ],
  },
  {
    kind: "reverseLamp",
    ...READING_KINDS.reverseLamp,
    how: "Ignition on, engine off, parking brake set, nobody behind the car; meter at the lamp plug.",
    windows: [
      w(0.5, "stop", "Nothing.", "Not the reverse lamp wire", "Lamp fuse", "Selector not quite in reverse"),
      w(
        9,
        "watch",
        "Pulsed or low.",
        "The lamp is dimmed by pulses: use a filter or the bus",
        "Bad ground at the lamp",
      ),
      w(END, "good", "The wire of the reverse lamp; check that it is dark in every other position."),
    ],
  },
];

export interface Interpreted {
  tone: Window["tone"];
  says: string;
  causes: string[];
}

/** What a reading means. */
export function interpret(kind: ReadingKind, value: number): Interpreted {
  const spec = READINGS.find((r) => r.kind === kind) as ReadingSpec;
  const { tone, says, causes } = spec.windows.find((x) => value < x.below) as Window;
  return { tone, says, causes };
}

const UNITS: Readonly<Record<string, "V" | "A" | "Ω">> = { v: "V", a: "A", o: "Ω", ω: "Ω" };

export type Read = { ok: true; value: number } | { ok: false; message: string };

/**
 * A number as it is written down in a bay: with comma or point, with unit, `k` for thousands, `OL` for open.
 *
 * @example readNumber("12,4 V", spec) // 12.4
 */
export function readNumber(
  text: string,
  spec: Pick<ReadingSpec, "label" | "most"> & { unit: ReadingSpec["unit"] | "A" },
): Read {
  const clean = text.trim().replace(/\s+/g, " ");
  if (spec.unit === "Ω" && /^(ol|open|inf|∞)$/i.test(clean)) return { ok: true, value: spec.most };
  const match = /^([+-]?\d{1,9}(?:[.,]\d{1,6})?) ?(k|m)?(v|volts?|Ω|ohms?|a|amps?)?$/i.exec(clean);
  if (!match?.[1])
    return { ok: false, message: `${spec.label}: “${clean}” is not a number. Write it like 12,4 or 12.4.` };
  const unit = match[3] ? UNITS[match[3].charAt(0).toLowerCase()] : spec.unit;
  if (unit !== spec.unit)
    return { ok: false, message: `${spec.label} is measured in ${spec.unit}, not in ${unit}. Turn the meter's dial.` };
  const scale =
    match[2] === undefined ? 1 : match[2].toLowerCase() === "k" ? 1000 : match[2] === "M" ? 1_000_000 : 0.001;
  const value = Number(match[1].replace(",", ".")) * scale;
  if (value < 0)
    return { ok: false, message: `${spec.label}: ${clean} is below zero. The probes are exchanged; measure again.` };
  if (value > spec.most)
    return {
      ok: false,
      message: `${spec.label}: ${clean} is more than can be here (${spec.most} ${spec.unit}). Look at the range of the meter.`,
    };
  return { ok: true, value };
}
