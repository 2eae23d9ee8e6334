import { Plus, X } from "lucide";
import type { FoundSignal } from "~/core/bus/hunt/found";
import { COMPARISONS, type Comparison, MISSING, OUTPUTS, type Rule } from "~/core/bus/translation/translation";
import { Button } from "../../controls";
import { Icon } from "../../icon";

type Change<T> = (next: T) => void;

/** One rule with all that can be said of it. */
export function RuleEditor({
  rule,
  signals,
  onChange,
}: {
  rule: Rule;
  signals: readonly FoundSignal[];
  onChange: Change<Rule>;
}) {
  const { kind } = OUTPUTS[rule.output];
  const put = (more: Partial<Rule>) => onChange({ ...rule, ...more });
  return (
    <div className="mb-2 space-y-4 border-l-4 border-rule py-2 pl-4">
      {kind === "level" ? (
        <LevelRow rule={rule} signals={signals} onChange={onChange} />
      ) : (
        <Conditions rule={rule} signals={signals} onChange={onChange} />
      )}
      <div className="flex flex-wrap gap-x-6 gap-y-3">
        {kind !== "level" && (
          <>
            <Ms label="Must hold for" value={rule.debounceMs} onChange={(debounceMs) => put({ debounceMs })} />
            <Ms label="Stays on for" value={rule.holdMs} onChange={(holdMs) => put({ holdMs })} />
          </>
        )}
        {kind === "key" && <Ms label="Long press from" value={rule.longMs} onChange={(longMs) => put({ longMs })} />}
        <Ms label="Message missing after" value={rule.timeoutMs} onChange={(timeoutMs) => put({ timeoutMs })} />
        <label className="block">
          <span className="block text-sm text-quiet">When it is missing</span>
          <select
            className="field w-auto!"
            value={rule.missing}
            onChange={(e) => put({ missing: e.currentTarget.value as Rule["missing"] })}
          >
            {MISSING.map((m) => (
              <option key={m} value={m}>
                {m === "last" ? "stay as it was" : m}
              </option>
            ))}
          </select>
        </label>
      </div>
    </div>
  );
}

function Conditions({
  rule,
  signals,
  onChange,
}: {
  rule: Rule;
  signals: readonly FoundSignal[];
  onChange: Change<Rule>;
}) {
  const [first] = signals;
  const fresh = (): Comparison => ({ signal: first ? pathOf(first) : "", is: "=", value: 1 });
  const put = (when: Comparison[][]) => onChange({ ...rule, when: when.filter((g) => g.length > 0) });
  return (
    <div className="space-y-2">
      {rule.when.map((group, g) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a group is its place
        <div key={g} className="space-y-2">
          {g > 0 && <p className="text-sm font-medium">or</p>}
          {group.map((c, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a comparison is its place
            <div key={i} className="flex flex-wrap items-center gap-2">
              <span className="w-10 text-sm text-quiet">{i === 0 ? "when" : "and"}</span>
              <ComparisonRow
                comparison={c}
                signals={signals}
                onChange={(next) => put(rule.when.with(g, group.with(i, next)))}
              />
              <Button
                look="quiet"
                aria-label="Remove this condition"
                onClick={() => put(rule.when.with(g, group.toSpliced(i, 1)))}
              >
                <Icon of={X} size={18} />
              </Button>
            </div>
          ))}
          <Button look="quiet" onClick={() => put(rule.when.with(g, [...group, fresh()]))}>
            <Icon of={Plus} size={18} /> and
          </Button>
        </div>
      ))}
      <Button look="quiet" onClick={() => put([...rule.when, [fresh()]])}>
        <Icon of={Plus} size={18} /> {rule.when.length === 0 ? "Condition" : "or"}
      </Button>
    </div>
  );
}

function pathOf({ message, signal }: Pick<FoundSignal, "message" | "signal">): string {
  return `${message}.${signal}`;
}

function SignalSelect({
  value,
  signals,
  onChange,
}: {
  value: string;
  signals: readonly FoundSignal[];
  onChange: Change<string>;
}) {
  return (
    <select
      className="field w-auto!"
      aria-label="Signal"
      value={value}
      onChange={(e) => onChange(e.currentTarget.value)}
    >
      {!signals.some((s) => pathOf(s) === value) && <option value={value}>{value || "choose"}</option>}
      {signals.map((s) => (
        <option key={pathOf(s)} value={pathOf(s)}>
          {s.signal}
        </option>
      ))}
    </select>
  );
}

function ComparisonRow({
  comparison: c,
  signals,
  onChange,
}: {
  comparison: Comparison;
  signals: readonly FoundSignal[];
  onChange: Change<Comparison>;
}) {
  const signal = signals.find((s) => pathOf(s) === c.signal);
  const named = (signal?.values ?? []).map(
    ([raw, name]) => [raw * (signal?.factor ?? 1) + (signal?.offset ?? 0), name] as const,
  );
  const byName = named.length > 0 && (c.is === "=" || c.is === "≠");
  return (
    <>
      <SignalSelect value={c.signal} signals={signals} onChange={(next) => onChange({ ...c, signal: next })} />
      <select
        className="field w-auto!"
        aria-label="Comparison"
        value={c.is}
        onChange={(e) => onChange({ ...c, is: e.currentTarget.value as Comparison["is"] })}
      >
        {COMPARISONS.map((is) => (
          <option key={is} value={is}>
            {is}
          </option>
        ))}
      </select>
      {byName ? (
        <select
          className="field w-auto!"
          aria-label="Value"
          value={c.value}
          onChange={(e) => onChange({ ...c, value: Number(e.currentTarget.value) })}
        >
          {!named.some(([v]) => v === c.value) && <option value={c.value}>{c.value}</option>}
          {named.map(([v, name]) => (
            <option key={v} value={v}>
              {name} ({v})
            </option>
          ))}
        </select>
      ) : (
        <NumberInput label="Value" value={c.value} onChange={(value) => onChange({ ...c, value })} />
      )}
      {signal?.unit && <span className="text-quiet">{signal.unit}</span>}
    </>
  );
}

function LevelRow({
  rule,
  signals,
  onChange,
}: {
  rule: Rule;
  signals: readonly FoundSignal[];
  onChange: Change<Rule>;
}) {
  const [first] = signals;
  const level = rule.level ?? { signal: first ? pathOf(first) : "", factor: 1, offset: 0 };
  const put = (more: Partial<typeof level>) => onChange({ ...rule, level: { ...level, ...more } });
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span className="text-sm text-quiet">follows</span>
      <SignalSelect value={rule.level?.signal ?? ""} signals={signals} onChange={(signal) => put({ signal })} />
      <span>×</span>
      <NumberInput label="Factor" value={level.factor} onChange={(factor) => put({ factor })} />
      <span>+</span>
      <NumberInput label="Offset" value={level.offset} onChange={(offset) => put({ offset })} />
    </div>
  );
}

function NumberInput({ label, value, onChange }: { label: string; value: number; onChange: Change<number> }) {
  return (
    <input
      type="number"
      step="any"
      aria-label={label}
      className="field w-28!"
      value={value}
      onChange={(e) => onChange(Number(e.currentTarget.value))}
    />
  );
}

function Ms({ label, value, onChange }: { label: string; value: number; onChange: Change<number> }) {
  return (
    <label className="block">
      <span className="block text-sm text-quiet">{label}</span>
      <span className="inline-flex items-center gap-1">
        <input
          type="number"
          min={0}
          max={60_000}
          step={10}
          className="field w-28!"
          value={value}
          onChange={(e) => onChange(Math.min(60_000, Math.max(0, Math.round(Number(e.currentTarget.value)))))}
        />{" "}
        ms
      </span>
    </label>
  );
}
