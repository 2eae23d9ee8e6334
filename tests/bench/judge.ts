/**
 * The search for causes over shipped jobs that fit: everything that can be the matter is planted, answered with and
 * without mistakes, taken off the list, and searched for by other policies in the same run.
 * `ITERON_JOBS=all` takes every job instead of every fourth.
 */
import { entropyBits } from "../../core/diagnose/belief";
import { type Hint, type Judgement, judge } from "../../core/diagnose/judge";
import type { Proposal } from "../../core/diagnose/propose";
import { type JudgeTable, judgeTable } from "../../core/diagnose/table";
import { Model } from "../../core/model/outcome";
import { insteadOf } from "../../core/model/sight";
import { seededRandom } from "../../sim/random";
import { type Planted, type Policy, type Pursuit, plantedBy, pursue } from "../support/pursue";
import { fittingJobs } from "./jobs";
import { report } from "./report";

const every = process.env.ITERON_JOBS === "all" ? 1 : 4;
const jobs = fittingJobs();
const cars = jobs
  .filter((_, i) => i % every === 0)
  .flatMap((plan) => {
    const table = judgeTable(plan.fitted, plan.tests, plan.touched);
    return table ? [{ plan, table }] : [];
  });
const tables = cars.map((c) => c.table);

/** One thing that is the matter with one car, and the test that fails first. */
interface Planting {
  table: JudgeTable;
  h: number;
  failing: number;
}

const shows = (table: JudgeTable, h: number) =>
  table.tests.findIndex((_, t) => plantedBy(table, h).test(t) !== "works");
const faults = tables.flatMap((table) =>
  table.hypotheses.flatMap((x, h): Planting[] => {
    const failing = x.kind === "none" || x.kind === "normal" ? -1 : shows(table, h);
    return failing < 0 ? [] : [{ table, h, failing }];
  }),
);

/** A right answer, or with some chance another one. */
function mistaken({ table, h }: Planting, chance: number, random: () => number): Planted {
  const right = plantedBy(table, h);
  return {
    test(t) {
      const sight = right.test(t);
      if (random() >= chance) return sight;
      const others = ["works", ...insteadOf(table.tests[t]?.sense ?? "control")].filter(
        (w) => w !== sight.split(":")[0],
      );
      return others[Math.floor(random() * others.length)] ?? sight;
    },
    look(id) {
      const answer = right.look(id);
      const others = table.looks.find((l) => l.id === id)?.answers.filter((a) => a.id !== answer) ?? [];
      return random() >= chance ? answer : (others[Math.floor(random() * others.length)]?.id ?? answer);
    },
  };
}

/** It was found: to be repaired, in the first line, or at the place where one is sent. */
function isFound({ table, h }: Planting, { repaired, end }: Pursuit): boolean {
  const cause = table.hypotheses[h];
  const place = table.hypotheses.find((x) => x.id === repaired)?.settledBy;
  return (
    place === cause?.settledBy ||
    (end.groups[0]?.members.some((m) => (m.pair ?? [m]).some((x) => x.id === cause?.id)) ?? false)
  );
}

const PAIRS_EACH = 12;

/** Searches for two faults at once; a repair of what is sound counts as a check. */
function both(table: JudgeTable, sound: Model, planted: readonly [Planting, Planting]) {
  const alone = planted.reduce((sum, f) => sum + pursue(table, f.failing, plantedBy(table, f.h)).steps, 0);
  let left: number[] = planted.map((f) => f.h);
  const cause = (h: number) => table.hypotheses[h] as JudgeTable["hypotheses"][number];
  const model = () => left.reduce((m, h) => m.under(cause(h).fault?.disturbance ?? {}), sound);
  const look = (id: string) => {
    const found = left.map((h) => plantedBy(table, h).look(id));
    return found.find((a) => a !== table.looks.find((l) => l.id === id)?.answers.at(-1)?.id) ?? (found[0] as string);
  };
  const tests = new Map<string, string>();
  const looks = new Map<string, string>();
  const hints = new Map<string, Hint>();
  let now = model();
  for (const f of planted) {
    const t = table.tests[f.failing];
    if (t) tests.set(t.id, now.sight(t.fn, t.situationId));
  }
  let steps = 0;
  let inThree: boolean | null = null;
  while (left.length > 0 && steps < 60) {
    const judgement = judge(table, { tests, looks, hints });
    const [next] = judgement.next;
    if (!next) break;
    if (next.kind !== "repair") {
      steps++;
      if (next.kind === "look") looks.set(next.look.id, look(next.look.id));
      else {
        const t = table.tests.find((x) => x.id === next.id);
        if (t) tests.set(t.id, now.sight(t.fn, t.situationId));
      }
      continue;
    }
    inThree ??= judgement.groups
      .slice(0, 3)
      .some((g) =>
        g.members.some((m) =>
          (m.pair ?? [m]).some((x) => left.some((h) => cause(h).id === x.id || cause(h).settledBy === x.settledBy)),
        ),
      );
    const right = left.find((h) => cause(h).settledBy === next.hypothesis.settledBy);
    if (right === undefined) steps++;
    left = left.filter((h) => h !== right);
    hints.set(next.hypothesis.id, { factor: 0.05, why: "repaired" });
    if (next.hypothesis.settledBy) looks.delete(next.hypothesis.settledBy);
    now = model();
    for (const t of table.tests) if (tests.has(t.id)) tests.set(t.id, now.sight(t.fn, t.situationId));
    if (left.length > 0 && [...tests.values()].every((s) => s === "works")) {
      const t = table.tests.find((x) => now.sight(x.fn, x.situationId) !== "works");
      if (!t) break;
      tests.set(t.id, now.sight(t.fn, t.situationId));
    }
  }
  return { steps, alone, inThree: inThree ?? false, both: left.length === 0 };
}

const share = (of: readonly boolean[]) => of.filter(Boolean).length / of.length;

/** The question with most information, whatever it costs. */
const byBits: Policy = ({ next }: Judgement) => {
  const [first] = next;
  if (first?.kind === "repair") return first;
  const asked = next.filter((p): p is Exclude<Proposal, { kind: "repair" }> => p.kind !== "repair");
  return asked.sort((a, b) => b.gainBits - a.gainBits)[0];
};

/** Steps of plain elimination with answers that are never wrong: most information first, until one place is left. */
function elimination({ table, h, failing }: Planting): number {
  const first = plantedBy(table, h).test(failing);
  const answers = table.hypotheses.map(({ kind }, x) => {
    const planted = plantedBy(table, x);
    // A state that passes may be met at the first test, whatever it shows most.
    const met = kind === "normal" && (table.predictions[x]?.[failing] ?? []).some(([sight]) => sight === first);
    return [
      ...table.tests.map((_, t) => (met && t === failing ? first : planted.test(t))),
      ...table.looks.map((l) => planted.look(l.id)),
    ];
  });
  const mine = answers[h] as string[];
  let left = table.hypotheses.flatMap((x, i) =>
    x.kind !== "none" && answers[i]?.[failing] === mine[failing] ? [i] : [],
  );
  const open = new Set(mine.keys());
  open.delete(failing);
  let steps = 0;
  while (new Set(left.map((i) => table.hypotheses[i]?.settledBy)).size > 1) {
    let best = { q: -1, bits: -1 };
    for (const q of open) {
      const parts = new Map<string, number>();
      for (const i of left) {
        const a = answers[i]?.[q] ?? "";
        parts.set(a, (parts.get(a) ?? 0) + (table.hypotheses[i]?.weight ?? 0));
      }
      const total = [...parts.values()].reduce((a, b) => a + b, 0);
      const bits = entropyBits([...parts.values()].map((w) => w / total));
      if (bits > best.bits) best = { q, bits };
    }
    if (best.bits <= 0) break;
    open.delete(best.q);
    left = left.filter((i) => answers[i]?.[best.q] === mine[best.q]);
    steps++;
  }
  return steps;
}

const cases = `${tables.length} of ${jobs.length} shipped jobs, ${faults.length} faults that show`;

{
  const runs = faults.map((f) => ({ f, run: pursue(f.table, f.failing, plantedBy(f.table, f.h)) }));
  const weight = (f: Planting) => f.table.hypotheses[f.h]?.weight ?? 0;
  const found = runs.map(({ f, run }) => isFound(f, run));
  const all = runs.reduce((sum, { f }) => sum + weight(f), 0);
  const right = runs.reduce((sum, { f }, i) => sum + (found[i] ? weight(f) : 0), 0);
  report({ case: `found, answers without mistakes: ${cases}`, value: 100 * share(found), unit: "%", note: "aim: 98" });
  report({ case: "found, by weight", value: (100 * right) / all, unit: "%", note: "aim: 99.5" });
  const byWeight = (value: (i: number) => number) => runs.reduce((s, { f }, i) => s + weight(f) * value(i), 0) / all;
  const doubted = byWeight((i) => Number((runs[i]?.run.doubtAfter ?? 99) <= 4));
  report({ case: "it is said within four checks that it may be none, by weight", value: 100 * doubted, unit: "%" });
  const steps = byWeight((i) => runs[i]?.run.steps ?? 0);
  const plain = byWeight((i) => elimination(faults[i] as Planting));
  report({
    case: "checks until the repair is proposed, faults by their weight",
    value: steps,
    unit: "checks",
    peer: "elimination of the same causes by most information, answers never wrong",
    peerValue: plain,
    ratio: steps / plain,
    note: "aim: at most 1.15",
  });
  const bits = faults.map((f) => pursue(f.table, f.failing, plantedBy(f.table, f.h), { policy: byBits }));
  const minutes = byWeight((i) => runs[i]?.run.minutes ?? 0);
  const peerValue = byWeight((i) => bits[i]?.minutes ?? 0);
  report({
    case: "minutes of these checks",
    value: minutes,
    unit: "min",
    peer: "most information first, whatever it takes",
    peerValue,
    ratio: minutes / peerValue,
    note: "aim: below 1",
  });
  report({ case: "checks of that policy", value: byWeight((i) => bits[i]?.steps ?? 0), unit: "checks" });
}
{
  const random = seededRandom(15);
  const found = faults.map((f) => isFound(f, pursue(f.table, f.failing, mistaken(f, 0.05, random))));
  report({ case: "found with 5 % wrong answers", value: 100 * share(found), unit: "%", note: "aim: 90" });
}
{
  let [planted, firstWrong, endWrong] = [0, 0, 0];
  for (const table of tables)
    for (const [h, x] of table.hypotheses.entries()) {
      if (!x.normal) continue;
      for (const failing of table.tests.keys()) {
        const word = table.predictions[h]?.[failing]?.find(([sight]) => sight !== "works")?.[0];
        if (word === undefined) continue;
        const right = plantedBy(table, h);
        // What passes by itself has passed at the next try.
        const met = { ...right, test: (t: number) => (t === failing ? word : x.shows ? "works" : right.test(t)) };
        const { first, end } = pursue(table, failing, met);
        planted++;
        if (!first.groups[0]?.members[0]?.normal) firstWrong++;
        if (!end.groups[0]?.members[0]?.normal) endWrong++;
      }
    }
  report({
    case: `normal states planted (${planted}): a fault stands first at the end`,
    value: endWrong,
    unit: "times",
  });
  report({ case: "a fault stands first right after the first failing test", value: firstWrong, unit: "times" });
}
{
  // It is taken off the list, with all that no test tells from it and all that are found at the same place.
  const lost = faults.filter((f) => f.table.alike[f.h] === f.h);
  const results = lost.map(({ table, h, failing }) => {
    const kept = table.hypotheses.flatMap((_, i) =>
      table.alike[i] === h || table.hypotheses[i]?.settledBy === table.hypotheses[h]?.settledBy ? [] : [i],
    );
    const without: JudgeTable = {
      ...table,
      hypotheses: kept.map((i) => table.hypotheses[i] as JudgeTable["hypotheses"][number]),
      predictions: kept.map((i) => table.predictions[i] ?? []),
      alike: kept.map((i, k) =>
        Math.max(kept.indexOf(table.alike[i] ?? i), -1) === -1 ? k : kept.indexOf(table.alike[i] ?? i),
      ),
      signs: kept.map((i) => table.signs[i] ?? new Set()),
    };
    return pursue(without, failing, plantedBy(table, h), { maxSteps: 20 });
  });
  const said = results.map((r) => r.doubtAfter !== null && r.doubtAfter <= 4);
  const everSaid = results.map((r) => r.doubtAfter !== null);
  report({
    case: `the cause is on no list (${lost.length}): the page says so within four checks`,
    value: 100 * share(said),
    unit: "%",
    note: `aim: 90; within twenty ${Math.round(100 * share(everSaid))} %`,
  });
  const wrong = results.map((r) => r.repaired !== null);
  report({
    case: "another cause is called to be repaired",
    value: 100 * share(wrong),
    unit: "%",
    note: "aim: under 2",
  });
}
{
  // Of the causes given p %, p % are true: after each of the first checks, answers as the table says they come.
  const random = seededRandom(77);
  const bins = Array.from({ length: 10 }, () => ({ said: 0, true: 0, n: 0 }));
  for (const table of tables) {
    const total = table.hypotheses.reduce((sum, x) => sum + x.weight, 0);
    const draw = () => {
      let rest = random() * total;
      return table.hypotheses.findIndex((x) => {
        rest -= x.weight;
        return rest <= 0;
      });
    };
    for (let run = 0; run < 120; run++) {
      const h = draw();
      if (h < 0) continue;
      const shown = (t: number) => {
        let rest = random();
        return (table.predictions[h]?.[t] ?? []).find(([, p]) => {
          rest -= p;
          return rest <= 0;
        })?.[0];
      };
      const drawn = table.tests.map((_, t) => shown(t) ?? "works");
      const failing = drawn.findIndex((s) => s !== "works");
      if (failing < 0) continue;
      const { end } = pursue(
        table,
        failing,
        { ...plantedBy(table, h), test: (t) => drawn[t] ?? "works" },
        { maxSteps: 2 },
      );
      for (const g of end.groups)
        for (const m of g.members) {
          const bin = bins[Math.min(9, Math.floor(10 * m.probability))];
          if (!bin) continue;
          bin.n++;
          bin.said += m.probability;
          if (m.id === table.hypotheses[h]?.id) bin.true++;
        }
    }
  }
  for (const { n, said, true: right } of bins)
    if (n >= 20)
      report({
        case: `causes given ${Math.round((100 * said) / n)} % (${n}) after two checks`,
        value: (100 * right) / n,
        unit: "% are true",
      });
}
{
  // Two faults on one car, simulated together; after each repair what failed is tried again.
  const random = seededRandom(5);
  const tried = cars.flatMap(({ plan, table }) => {
    const shown = faults.filter((f) => f.table === table && table.hypotheses[f.h]?.fault);
    const sound = new Model(plan.fitted, {}, plan.settings);
    return Array.from({ length: PAIRS_EACH }, () => {
      const [one, two] = [0, 1].map(() => shown[Math.floor(random() * shown.length)] as Planting) as [
        Planting,
        Planting,
      ];
      if (table.hypotheses[one.h]?.settledBy === table.hypotheses[two.h]?.settledBy) return null;
      return both(table, sound, [one, two]);
    }).filter((r) => r !== null);
  });
  report({
    case: `pairs of faults (${tried.length}): one of them in the first three lines, when the first repair is proposed`,
    value: 100 * share(tried.map((t) => t.inThree)),
    unit: "%",
    note: "aim: 99",
  });
  report({
    case: "both are repaired",
    value: 100 * share(tried.map((t) => t.both)),
    unit: "%",
  });
  const done = tried.filter((t) => t.both);
  const checks = done.reduce((sum, t) => sum + t.steps, 0);
  const alone = done.reduce((sum, t) => sum + t.alone, 0);
  report({
    case: "checks until both are repaired",
    value: checks / done.length,
    unit: "checks",
    peer: "the two alone, one after the other",
    peerValue: alone / done.length,
    ratio: checks / alone,
    note: "aim: at most 1.4",
  });
}
