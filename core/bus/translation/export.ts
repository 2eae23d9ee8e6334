/** A translation as a file of its own: complete as JSON, and as a plain table to look at. */
import Papa from "papaparse";
import { type BareSignal, bareSignal } from "../hunt/found";
import { OUTPUTS, type Rule, type Translation } from "./translation";

export const TRANSLATION_FORMAT = "iteron-translation";

/** What a module loads: the rules, and where their signals lie. */
export interface TranslationFile {
  format: typeof TRANSLATION_FORMAT;
  formatVersion: 1;
  signals: BareSignal[];
  rules: Rule[];
}

export function translationFile({ rules }: Translation, signals: readonly BareSignal[]): TranslationFile {
  return {
    format: TRANSLATION_FORMAT,
    formatVersion: 1,
    signals: signals.map(bareSignal),
    rules: [...rules],
  };
}

/** One line a rule, in words and numbers. */
export function translationTable({ rules }: Translation): string {
  return Papa.unparse(
    rules.map((r) => ({
      output: OUTPUTS[r.output].name,
      condition: r.level
        ? `${r.level.signal} * ${r.level.factor} + ${r.level.offset}`
        : r.when.map((g) => g.map((c) => `${c.signal} ${c.is} ${c.value}`).join(" and ")).join(" or "),
      "holds for, ms": r.debounceMs,
      "stays on for, ms": r.holdMs,
      "missing after, ms": r.timeoutMs,
      "when missing": r.missing,
      "long press from, ms": OUTPUTS[r.output].kind === "key" ? r.longMs : "",
    })),
  );
}
