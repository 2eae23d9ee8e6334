/** One thing to say about an identification number, with the place it concerns. */
export interface IdentificationNote {
  level: "error" | "watch" | "good";
  /** 1-based position, 0 for the whole. */
  position: number;
  text: string;
}

export interface Identification {
  /** Upper case, without spaces. */
  number: string;
  complete: boolean;
  /** A frame number, as cars of some markets have instead: shorter, and nothing can be read from it. */
  frame: boolean;
  /** Null until 17 characters stand there without a forbidden one. */
  checkDigit: { expected: string; found: string; matches: boolean; compulsory: boolean } | null;
  /** Possible model years of the character at position 10, oldest first. */
  modelYears: number[];
  region: string;
  says: string[];
  notes: IdentificationNote[];
}

const LENGTH = 17;
/** Frame numbers are so long without their dash: a code of the type and six or seven digits (from memory). */
const FRAME = /^[A-Z0-9]{2,7}\d{6,7}$/;
const FRAME_LENGTH = { min: 9, max: 13 };
const WEIGHTS = [8, 7, 6, 5, 4, 3, 2, 10, 0, 9, 8, 7, 6, 5, 4, 3, 2];
const LETTERS: Readonly<Record<string, number>> = {
  A: 1,
  B: 2,
  C: 3,
  D: 4,
  E: 5,
  F: 6,
  G: 7,
  H: 8,
  J: 1,
  K: 2,
  L: 3,
  M: 4,
  N: 5,
  P: 7,
  R: 9,
  S: 2,
  T: 3,
  U: 4,
  V: 5,
  W: 6,
  X: 7,
  Y: 8,
  Z: 9,
};
const YEAR_CODES = "ABCDEFGHJKLMNPRSTVWXY123456789";

/**
 * Check digit of a 17-character identification number: weighted sum of the character values, modulo 11, 10 is X.
 * Source: 49 CFR 565.15; ISO 3779 (from memory).
 *
 * @returns `0` to `9` or `X`; null when a character has no value.
 * @example checkDigit("1M8GDM9AXKP042788") // "X"
 */
export function checkDigit(number: string): string | null {
  let sum = 0;
  for (let i = 0; i < LENGTH; i++) {
    const character = number[i] ?? "";
    const value = /\d/.test(character) ? Number(character) : LETTERS[character];
    if (value === undefined) return null;
    sum += value * (WEIGHTS[i] ?? 0);
  }
  return sum % 11 === 10 ? "X" : String(sum % 11);
}

/**
 * Decodes an identification number as far as it is typed.
 *
 * The check digit is looked at only where the market asks for one: North America and China, by the first character.
 * Model years follow position 10 with its 30-year cycle from 1980. Source: 49 CFR 565.15; ISO 3779, 3780 (from memory).
 *
 * @param patterns what the shop's library says, `?` for any character
 * @param latestYear model years after it are left out
 */
export function decodeIdentification(
  typed: string,
  patterns: readonly { pattern: string; says: string }[],
  latestYear: number,
): Identification {
  const number = typed.toUpperCase().replace(/[\s-]/g, "");
  const notes = characterNotes(number);
  if (number.length > LENGTH)
    notes.push({
      level: "error",
      position: 0,
      text: `It has ${number.length} characters; an identification number has ${LENGTH}. Remove ${number.length - LENGTH}.`,
    });
  const complete = number.length === LENGTH && notes.length === 0;
  const check = complete ? checkResult(number) : null;
  const checked = check && checkNote(check);
  if (checked) notes.push(checked);
  const frame = number.length >= FRAME_LENGTH.min && number.length <= FRAME_LENGTH.max && FRAME.test(number);
  if (number.length > 0 && number.length < LENGTH)
    notes.push({
      level: "watch",
      position: 0,
      text: `${number.length} of ${LENGTH} characters.${frame ? " If it is a frame number it is right: year and maker cannot be read from it." : ""}`,
    });
  return {
    number,
    complete,
    frame,
    checkDigit: check,
    // A place means something only where all are filled.
    modelYears: number.length === LENGTH ? modelYears(number[9] ?? "", latestYear) : [],
    region: number.length === LENGTH ? region(number[0] ?? "") : "",
    says: number.length >= 3 && !frame ? patterns.filter((p) => fits(number, p.pattern)).map((p) => p.says) : [],
    notes,
  };
}

function characterNotes(number: string): IdentificationNote[] {
  return [...number].flatMap((character, i): IdentificationNote[] => {
    if (/[IOQ]/.test(character)) {
      const digit = character === "I" ? "1" : "0";
      return [
        {
          level: "error",
          position: i + 1,
          text: `The letter ${character} never occurs at position ${i + 1}. Look again: it may be the digit ${digit}.`,
        },
      ];
    }
    if (!/[A-Z0-9]/.test(character))
      return [
        {
          level: "error",
          position: i + 1,
          text: `“${character}” at position ${i + 1} is neither a letter nor a digit. Remove it.`,
        },
      ];
    return [];
  });
}

/** North America (49 CFR 565.15) and China (GB 16735, from memory) ask for a check digit; elsewhere there is none. */
const COMPULSORY = /^[1-5L]/;

function checkResult(number: string) {
  const expected = checkDigit(number) ?? "";
  const found = number[8] ?? "";
  return { expected, found, matches: expected === found, compulsory: COMPULSORY.test(number[0] ?? "") };
}

function checkNote(check: NonNullable<Identification["checkDigit"]>): IdentificationNote | null {
  if (!check.compulsory) return null;
  if (check.matches) return { level: "good", position: 9, text: `Check digit ${check.found} agrees.` };
  return {
    level: "error",
    position: 9,
    text: `Position 9 is ${check.found}, the check digit must be ${check.expected}. At least one character is misread: compare with the plate.`,
  };
}

function modelYears(code: string, latestYear: number): number[] {
  const index = YEAR_CODES.indexOf(code);
  if (code === "" || index < 0) return [];
  const years: number[] = [];
  for (let year = 1980 + index; year <= latestYear; year += YEAR_CODES.length) years.push(year);
  return years;
}

function region(first: string): string {
  if (first === "") return "";
  if (/[A-H]/.test(first)) return "Africa";
  if (/[J-R]/.test(first)) return "Asia";
  if (/[S-Z]/.test(first)) return "Europe";
  if (/[1-5]/.test(first)) return "North America";
  if (/[67]/.test(first)) return "Oceania";
  if (/[89]/.test(first)) return "South America";
  return "not assigned to a region";
}

/** True when the number begins as the pattern says; characters not typed yet agree with `?` only. */
function fits(number: string, pattern: string): boolean {
  return [...pattern].every((p, i) => p === "?" || number[i] === p);
}

/** Markets whose odometers count miles; from memory. */
const MILES: ReadonlySet<string> = new Set(["GB", "US", "LR", "MM"]);

/**
 * The unit in which the odometer of a car probably counts; the person who reads it says it.
 *
 * @param countries markets in which it was sold, ISO 3166-1
 */
export function usualOdometerUnit(countries: readonly string[]): "km" | "mi" {
  return countries.length > 0 && countries.every((c) => MILES.has(c)) ? "mi" : "km";
}
