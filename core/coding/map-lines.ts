/** What is collected line by line from a coding map in text; a line that makes no sense is refused. */
import type { CodedField, CodedUnit, CodedWord } from "./map";

/** A line that cannot be read, with what is wrong. */
export class LineProblem extends Error {}

/** What is collected line by line. */
export class Collected {
  readonly units: CodedUnit[] = [];
  private readonly unitsByName = new Map<string, CodedUnit>();
  private readonly wordsOf = new WeakMap<CodedUnit, Map<number, CodedWord>>();
  private readonly idsIn = new WeakMap<readonly unknown[], Map<string, number>>();
  fields = 0;
  unit: CodedUnit | null = null;
  word: CodedWord | null = null;

  /** Goes on with a unit, which may stand there already. */
  inUnit(name: string, request: number | null, answer: number | null): void {
    const known = this.unitsByName.get(name.toLowerCase());
    if (known) {
      if ((request ?? known.request) !== known.request || (answer ?? known.answer) !== known.answer)
        throw new LineProblem(
          `“${name}” has two addresses: ${hex(known.request)} and ${hex(request ?? known.request)}.`,
        );
      if (this.unit !== known) this.word = null;
      this.unit = known;
    } else {
      if (request === null || answer === null)
        throw new LineProblem(`“${name}” has no addresses: it needs the identifiers of request and answer.`);
      const extended = Math.max(request, answer) > 0x7ff;
      this.unit = {
        id: this.idFor(name, this.units),
        name,
        request,
        answer,
        ...(extended ? { extended } : {}),
        words: [],
      };
      this.units.push(this.unit);
      this.unitsByName.set(name.toLowerCase(), this.unit);
      this.wordsOf.set(this.unit, new Map());
      this.word = null;
    }
  }

  inWord(name: string, identifier: number, length: number | null, checksum: CodedWord["checksum"]): void {
    const { unit } = this;
    if (!unit)
      throw new LineProblem("The control unit of this word is not said: name it, with its two addresses, before.");
    const words = this.wordsOf.get(unit);
    const known = words?.get(identifier);
    if (!known && length === null)
      throw new LineProblem(`The length of word ${hex(identifier)} is not said; it is needed, in bytes.`);
    if (known && length !== null && length !== known.length)
      throw new LineProblem(`Word ${hex(identifier)} has two lengths: ${known.length} and ${length} bytes.`);
    this.word = known ?? {
      id: this.idFor(name, unit.words),
      name,
      identifier,
      length: length ?? 0,
      ...(checksum ? { checksum } : {}),
      fields: [],
    };
    if (known) return;
    unit.words.push(this.word);
    words?.set(identifier, this.word);
  }

  addField(field: Omit<CodedField, "id">): void {
    const { word } = this;
    if (!word) throw new LineProblem("The word of this field is not said: name it, with its identifier, before.");
    const last = field.byte + (field.order === "big" ? 0 : Math.floor((field.bit + field.width - 1) / 8));
    const first = field.byte - (field.order === "big" ? Math.floor((field.bit + field.width - 1) / 8) : 0);
    if (first < 0 || last >= word.length)
      throw new LineProblem(`“${field.label}” lies outside its word of ${word.length} bytes.`);
    const values = field.values ?? [];
    const wide = values.find((v) => v.raw >= 2 ** field.width);
    if (wide) throw new LineProblem(`The value ${wide.raw} of “${field.label}” does not go into ${field.width} bits.`);
    word.fields.push({ id: this.idFor(field.label, word.fields), ...field });
    this.fields++;
  }

  /** An identifier by the name; a number makes it another one where it is used among its like. */
  private idFor(name: string, among: readonly unknown[]): string {
    const used = this.idsIn.get(among) ?? new Map<string, number>();
    this.idsIn.set(among, used);
    const base = camelCase(name);
    let n = (used.get(base) ?? 0) + 1;
    while (n > 1 && used.has(`${base}${n}`)) n++;
    used.set(base, n);
    const id = n === 1 ? base : `${base}${n}`;
    if (n > 1) used.set(id, 1);
    return id;
  }
}

function camelCase(name: string): string {
  const words = name
    .normalize("NFD")
    .replace(/[^A-Za-z0-9]+/g, " ")
    .trim()
    .split(" ")
    .slice(0, 5);
  const camel = words.map((w, i) => (i === 0 ? w.toLowerCase() : w.charAt(0).toUpperCase() + w.slice(1).toLowerCase()));
  return camel.join("").slice(0, 50) || "item";
}

export const hex = (n: number) => n.toString(16).toUpperCase().padStart(3, "0");
