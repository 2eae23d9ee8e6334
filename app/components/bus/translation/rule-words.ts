import type { FoundSignal } from "~/core/bus/hunt/found";
import { type Comparison, OUTPUTS, type Rule } from "~/core/bus/translation/translation";

/** The condition of a rule as a person says it: “WheelKeys = volume up”. */
export function ruleWords(rule: Rule, signals: readonly FoundSignal[]): string {
  if (OUTPUTS[rule.output].kind === "level") {
    const { level } = rule;
    if (!level) return "follows nothing yet";
    const scale = level.factor === 1 ? "" : ` × ${level.factor}`;
    const shift = level.offset === 0 ? "" : ` ${level.offset < 0 ? "−" : "+"} ${Math.abs(level.offset)}`;
    return `follows ${nameOf(level.signal)}${scale}${shift}`;
  }
  if (rule.when.length === 0) return "no condition yet";
  return rule.when.map((g) => g.map((c) => comparisonWords(c, signals)).join(" and ")).join(", or ");
}

function comparisonWords({ signal, is, value }: Comparison, signals: readonly FoundSignal[]): string {
  const found = signals.find((s) => `${s.message}.${s.signal}` === signal);
  const name = found?.values.find(([raw]) => raw * found.factor + found.offset === value)?.[1];
  return `${nameOf(signal)} ${is} ${name ?? value}${found?.unit ? ` ${found.unit}` : ""}`;
}

function nameOf(path: string): string {
  return path.split(".")[1] ?? path;
}
