/** What the outputs of a translation do when a log comes in. */
import type { Dbc, DbcMessage, DbcSignal } from "../dbc-messages";
import { decodeFrame } from "../decode";
import { type Frames, isMessage, keyAt } from "../frames";
import { idKey } from "../identifier";
import { compares, OUTPUTS, type OutputId, type Rule, signalsOf, type Translation } from "./translation";

/** A stretch in which an output is on. Times in seconds as the log has them. */
export interface OnStretch {
  fromS: number;
  toS: number;
}

export interface OutputTrace {
  output: OutputId;
  /** When a switch, lock or key was on. */
  on: OnStretch[];
  /** Presses of a key: short ones when it is let go, long ones when they have lasted. */
  presses: { atS: number; long: boolean }[];
  /** Values of a level, where they change; NaN while missing. */
  level: { timeS: number[]; value: number[] };
}

interface Watched {
  signal: DbcSignal;
  value: number;
  seenS: number;
}

/**
 * Replays a log, frame by frame. Signals that no frame has told yet are missing.
 *
 * @throws {Error} when a rule names a signal that the description lacks; check the translation first
 */
export function replay(frames: Frames, { rules }: Translation, dbc: Pick<Dbc, "messages">): OutputTrace[] {
  const names = new Set(rules.flatMap(signalsOf));
  const watched = new Map<string, Watched>();
  const byKey = new Map<number, { message: DbcMessage; names: string[] }>();
  for (const message of dbc.messages) {
    const own = message.signals.filter((s) => names.has(`${message.name}.${s.name}`));
    if (own.length === 0) continue;
    byKey.set(idKey(message.id, message.extended), { message, names: own.map((s) => s.name) });
    for (const signal of own)
      watched.set(`${message.name}.${signal.name}`, { signal, value: Number.NaN, seenS: Number.NEGATIVE_INFINITY });
  }
  for (const name of names) if (!watched.has(name)) throw new Error(`no signal ${name}`);
  const outputs = rules.map(
    (rule) =>
      new Output(
        rule,
        signalsOf(rule).map((n) => watched.get(n) as Watched),
        watched,
      ),
  );
  let nowS = frames.timeS[0] ?? 0;
  for (const o of outputs) o.look(nowS);
  for (let i = 0; i < frames.count; i++) {
    nowS = frames.timeS[i] as number;
    for (const o of outputs) o.pass(nowS);
    const of = byKey.get(keyAt(frames, i));
    if (!of || !isMessage(frames, i)) continue;
    const values = decodeFrame(of.message, frames.data, frames.at[i] as number, frames.length[i] as number);
    for (const name of of.names) {
      const value = values.get(name);
      const watch = watched.get(`${of.message.name}.${name}`);
      if (value === undefined || !watch) continue;
      watch.value = Number(value);
      watch.seenS = nowS;
    }
    for (const o of outputs) o.look(nowS);
  }
  return outputs.map((o) => o.finish(nowS));
}

/** One output with its clocks. */
class Output {
  private readonly trace: OutputTrace;
  private isOn = false;
  private wanted = false;
  /** When the wanted state is taken over. */
  private dueS = Number.POSITIVE_INFINITY;
  private onSinceS = 0;
  private longToldS = Number.NEGATIVE_INFINITY;
  private missingNow: boolean | null = null;
  private lastLevel: number | null = null;

  constructor(
    private readonly rule: Rule,
    private readonly signals: readonly Watched[],
    private readonly all: ReadonlyMap<string, Watched>,
  ) {
    this.trace = { output: rule.output, on: [], presses: [], level: { timeS: [], value: [] } };
  }

  /** Lets time pass up to a moment: what was due happens at its own time, and messages become missing. */
  pass(nowS: number): void {
    const goneS = Math.min(...this.signals.map((s) => s.seenS)) + this.rule.timeoutMs / 1000;
    if (this.missingNow === false && nowS > goneS) this.look(goneS, true);
    if (this.dueS <= nowS) this.take(this.dueS);
    const longS = this.onSinceS + this.rule.longMs / 1000;
    if (this.isOn && this.isKey && nowS >= longS && this.longToldS < this.onSinceS) {
      this.trace.presses.push({ atS: longS, long: true });
      this.longToldS = longS;
    }
  }

  /** Looks at the signals as they are now. */
  look(nowS: number, gone = false): void {
    const missing = gone || this.signals.some((s) => nowS - s.seenS > this.rule.timeoutMs / 1000);
    const was = this.missingNow;
    this.missingNow = missing;
    if (OUTPUTS[this.rule.output].kind === "level") return this.follow(nowS, missing);
    if (missing && was !== true && this.rule.missing === "last") return;
    const wanted = missing ? (this.rule.missing === "last" ? this.wanted : this.rule.missing === "on") : this.holds();
    if (wanted === this.wanted && was !== null) return;
    this.wanted = wanted;
    if (wanted === this.isOn) this.dueS = Number.POSITIVE_INFINITY;
    // What is missing needs no patience: the default holds at once.
    else this.dueS = nowS + (missing ? 0 : (wanted ? this.rule.debounceMs : this.rule.holdMs) / 1000);
    if (this.dueS <= nowS) this.take(nowS);
  }

  finish(endS: number): OutputTrace {
    this.pass(endS);
    if (this.isOn) this.trace.on.push({ fromS: this.onSinceS, toS: endS });
    return this.trace;
  }

  private get isKey(): boolean {
    return OUTPUTS[this.rule.output].kind === "key";
  }

  private holds(): boolean {
    return this.rule.when.some((g) => g.every((c) => compares(c, this.all.get(c.signal)?.value ?? Number.NaN)));
  }

  private take(atS: number): void {
    this.dueS = Number.POSITIVE_INFINITY;
    if (this.wanted === this.isOn) return;
    this.isOn = this.wanted;
    if (this.isOn) {
      this.onSinceS = atS;
      return;
    }
    this.trace.on.push({ fromS: this.onSinceS, toS: atS });
    if (this.isKey && atS - this.onSinceS < this.rule.longMs / 1000) this.trace.presses.push({ atS, long: false });
  }

  private follow(nowS: number, missing: boolean): void {
    const { level, missing: rule } = this.rule;
    if (!level || (missing && rule === "last" && this.lastLevel !== null)) return;
    const value = missing ? Number.NaN : (this.signals[0]?.value ?? Number.NaN) * level.factor + level.offset;
    if (this.lastLevel !== null && Object.is(value, this.lastLevel)) return;
    this.lastLevel = value;
    this.trace.level.timeS.push(nowS);
    this.trace.level.value.push(value);
  }
}
