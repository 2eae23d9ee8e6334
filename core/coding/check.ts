/** What makes a coding map unusable, beyond its shape. */
import { CoreError } from "../model/errors";
import { type CodedUnit, type CodedWord, type CodingMap, type FieldPlace, fieldPlaces } from "./map";
import { fieldBits } from "./word";

/** A coding map that contradicts itself. */
export class CodingMapError extends CoreError {}

const REMEDY = "Correct the place; nothing was stored.";

/**
 * Fields stay inside their word and do not overlap, references lead somewhere, dependencies do not go in a circle, no
 * two units share an address.
 *
 * @throws {CodingMapError} naming unit, word and field
 */
export function checkCodingMap(map: CodingMap): void {
  const places = fieldPlaces(map);
  const byRef = new Map(places.map((p) => [p.ref, p]));
  checkUnits(map.units);
  for (const unit of map.units) for (const word of unit.words) checkFields(unit, word);
  for (const place of places) checkField(place, byRef);
  for (const unit of map.units) {
    if (unit.listed && !byRef.has(unit.listed.field))
      throw new CodingMapError(
        unit.name,
        `the gateway's list is at “${unit.listed.field}”, which is no field.`,
        REMEDY,
      );
  }
  checkLoops(places);
}

function checkUnits(units: readonly CodedUnit[]): void {
  const addresses = new Map<string, string>();
  for (const unit of units) {
    for (const id of [unit.request, unit.answer]) {
      const limit = unit.extended ? 0x1fffffff : 0x7ff;
      const key = `${unit.extended ? "x" : ""}${id.toString(16).toUpperCase()}`;
      if (id > limit)
        throw new CodingMapError(
          unit.name,
          `the identifier ${key} has more than ${unit.extended ? 29 : 11} bits.`,
          REMEDY,
        );
      const other = addresses.get(key);
      if (other) throw new CodingMapError(unit.name, `the identifier ${key} is that of “${other}” already.`, REMEDY);
      addresses.set(key, unit.name);
    }
  }
  const ids = units.map((u) => u.id);
  const double = ids.find((id, i) => ids.indexOf(id) !== i);
  if (double) throw new CodingMapError(`unit “${double}”`, "it is listed twice.", REMEDY);
}

function checkFields(unit: CodedUnit, word: CodedWord): void {
  const where = `${unit.name} › ${word.name}`;
  if (unit.words.filter((w) => w.id === word.id || w.identifier === word.identifier).length > 1)
    throw new CodingMapError(where, "name or data identifier stands twice in this unit.", REMEDY);
  if (word.checksum && word.checksum.byte >= word.length)
    throw new CodingMapError(
      where,
      `the check byte ${word.checksum.byte} lies outside its ${word.length} bytes.`,
      REMEDY,
    );
  const taken = new Map<number, string>();
  for (const field of word.fields) {
    if (word.fields.filter((f) => f.id === field.id).length > 1)
      throw new CodingMapError(`${where} › ${field.label}`, `the name “${field.id}” stands twice.`, REMEDY);
    for (const bit of fieldBits(field)) {
      if (bit < 0 || bit >= 8 * word.length)
        throw new CodingMapError(`${where} › ${field.label}`, `it reaches outside the ${word.length} bytes.`, REMEDY);
      if (word.checksum?.byte === bit >> 3)
        throw new CodingMapError(`${where} › ${field.label}`, "it lies in the check byte.", REMEDY);
      const other = taken.get(bit);
      if (other)
        throw new CodingMapError(
          `${where} › ${field.label}`,
          `it overlaps “${other}” in byte ${bit >> 3}, bit ${bit & 7}.`,
          REMEDY,
        );
      taken.set(bit, field.label);
    }
  }
}

function checkField({ unit, word, field }: FieldPlace, byRef: ReadonlyMap<string, FieldPlace>): void {
  const where = `${unit.name} › ${word.name} › ${field.label}`;
  const raws = [
    ...(field.values ?? []).map((v) => v.raw),
    ...(field.facts ?? []).flatMap((f) => f.is),
    ...(field.needs ?? []).flatMap((n) => n.with),
  ];
  const large = raws.find((raw) => raw >= 2 ** field.width);
  if (large !== undefined)
    throw new CodingMapError(where, `the value ${large} does not fit ${field.width} bits.`, REMEDY);
  if (!field.values && !field.number)
    throw new CodingMapError(
      where,
      "it has neither values nor a number.",
      "Say what its values mean, or leave it out.",
    );
  for (const need of field.needs ?? []) {
    const other = byRef.get(need.field);
    if (!other) throw new CodingMapError(where, `it needs “${need.field}”, which is no field of this map.`, REMEDY);
    const strange = need.is.find((raw) => raw >= 2 ** other.field.width);
    if (strange !== undefined)
      throw new CodingMapError(where, `it needs “${other.field.label}” at ${strange}, which that cannot be.`, REMEDY);
  }
}

/** @throws when dependencies lead back to where they began: which of them would come first? */
function checkLoops(places: readonly FieldPlace[]): void {
  const byRef = new Map(places.map((p) => [p.ref, p]));
  const done = new Set<string>();
  const walk = (ref: string, trail: readonly string[]): void => {
    const at = trail.indexOf(ref);
    if (at >= 0) {
      const labels = [...trail.slice(at), ref].map((r) => byRef.get(r)?.field.label ?? r);
      throw new CodingMapError(
        "dependencies",
        `they lead in a circle: ${labels.join(" → ")}.`,
        "Leave out the one that leads back, or make one field of them.",
      );
    }
    if (done.has(ref)) return;
    for (const n of byRef.get(ref)?.field.needs ?? []) walk(n.field, [...trail, ref]);
    done.add(ref);
  };
  for (const { ref } of places) walk(ref, []);
}
