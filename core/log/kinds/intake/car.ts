import { type Kind, type Refusal, refuse } from "../../kind";
import type { FirmwareSlice } from "../configure/firmware";

/** The car as it came in. */
export interface CarSheet {
  identification: string;
  plate: string;
  /** As the dash shows it, with its unit: `88210 km`, `54800 mi`; empty when not noted. */
  odometer: string;
  firmware: string;
  faultCodes: string;
  note: string;
}

export type CarField = keyof CarSheet;

/** The fields that were changed, with what the person saw in them before. */
export interface CarData {
  changed: Partial<CarSheet>;
  before: Partial<CarSheet>;
}

interface CarSlice {
  car: CarSheet;
  /** Entry that each field comes from; empty fields have none. */
  carFields: Map<CarField, string>;
}

export const CAR_LABELS: Record<CarField, string> = {
  identification: "Identification number",
  plate: "Plate",
  odometer: "Odometer",
  firmware: "Radio firmware",
  faultCodes: "Fault codes before",
  note: "Note",
};

const EMPTY: CarSheet = { identification: "", plate: "", odometer: "", firmware: "", faultCodes: "", note: "" };

export const car: Kind<"intake.car", CarData, CarSlice, CarData, CarSlice & FirmwareSlice> = {
  kind: "intake.car",
  empty: () => ({ car: EMPTY, carFields: new Map() }),
  fold(state, { data, entry }) {
    state.car = { ...state.car, ...data.changed };
    // What was read from the version screen is newer than what an update left.
    if (data.changed.firmware !== undefined)
      state.firmware = { ...state.firmware, version: null, running: null, interrupted: null };
    for (const field of fieldsOf(data.changed)) state.carFields.set(field, entry);
  },
  check(job, { changed, before }): Refusal | null {
    const fields = fieldsOf(changed);
    const now = job.state.car;
    if (fields.every((f) => changed[f] === now[f]))
      return refuse("car sheet", "Nothing on the car sheet was changed.", "Change a field, then save.");
    const field = fields.find((f) => now[f] !== changed[f] && f in before && now[f] !== before[f]);
    if (!field) return null;
    const theirs = job.entries.find((e) => e.id === job.state.carFields.get(field));
    return {
      ...refuse(
        CAR_LABELS[field],
        `${theirs?.by ?? "Somebody"} changed this while you were writing. Nothing was overwritten.`,
        "Look at what stands there now, then save yours over it or leave it.",
      ),
      ...(theirs ? { theirs } : {}),
    };
  },
  write: (job, { changed }) => ({
    changed,
    before: Object.fromEntries(fieldsOf(changed).map((f) => [f, job.state.car[f]])),
  }),
  words: ({ changed }) =>
    `Car sheet: ${fieldsOf(changed)
      .map((f) => `${CAR_LABELS[f]} ${changed[f] === "" ? "emptied" : `“${changed[f]}”`}`)
      .join(", ")}`,
  // Version 1 held the whole sheet; version 2 knew kilometres only.
  upgrade: [
    (sheet: KmSheet) => ({ changed: sheet, before: {} }),
    ({ changed, before }: { changed: KmSheet; before: KmSheet }) => ({
      changed: withUnit(changed),
      before: withUnit(before),
    }),
  ],
};

type KmSheet = Partial<Omit<CarSheet, "odometer"> & { odometerKm: number | null }>;

function withUnit({ odometerKm, ...rest }: KmSheet): Partial<CarSheet> {
  if (odometerKm === undefined) return rest;
  return { ...rest, odometer: odometerKm === null ? "" : `${odometerKm} km` };
}

function fieldsOf(part: Partial<CarSheet>): CarField[] {
  return Object.keys(part) as CarField[];
}
