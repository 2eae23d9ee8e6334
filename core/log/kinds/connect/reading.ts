import { asAsked, type Kind, refuse } from "../../kind";

/** What a meter is asked in Connect, with its unit and the most that can be read there. */
export const READING_KINDS = {
  battery: { label: "At the battery, engine off", unit: "V", most: 30 },
  supplyOff: { label: "Switched feed, key off", unit: "V", most: 30 },
  supplyOn: { label: "Switched feed, ignition on", unit: "V", most: 30 },
  supplyCrank: { label: "Switched feed while cranking, lowest", unit: "V", most: 30 },
  drop: { label: "Drop between battery and module, under load", unit: "V", most: 20 },
  pairOhm: { label: "Resistance across the bus pair", unit: "Ω", most: 10_000_000 },
  busHigh: { label: "Bus high to body, ignition on", unit: "V", most: 30 },
  busLow: { label: "Bus low to body, ignition on", unit: "V", most: 30 },
  reverseLamp: { label: "Reverse lamp wire, selector in reverse", unit: "V", most: 30 },
} as const;
export type ReadingKind = keyof typeof READING_KINDS;

interface ReadingData {
  reading: ReadingKind;
  value: number;
}

type Reading = ReadingData & { at: string; by: string; entry: string };

export const reading: Kind<"connect.reading", ReadingData, { readings: Reading[] }> = {
  kind: "connect.reading",
  empty: () => ({ readings: [] }),
  fold(state, { data, at, by, entry }) {
    state.readings.push({ ...data, at, by, entry });
  },
  check(_, { reading, value }) {
    const { label, unit, most } = READING_KINDS[reading];
    return value <= most
      ? null
      : refuse(
          label,
          `${label}: ${value} is more than can be here (${most} ${unit}).`,
          "Look at the range of the meter.",
        );
  },
  write: asAsked,
  words: ({ reading, value }) => `${READING_KINDS[reading].label}: ${value} ${READING_KINDS[reading].unit}`,
  upgrade: [],
};
