/** What the car of a job does not do, and why that is no fault. */
import { ledger } from "../fit/ledger";
import { oncePer } from "../model/once";
import type { JobPlan } from "./plan";

/** Something that a customer may report and that is as it must be. */
export interface Expected {
  id: string;
  name: string;
  /** Conditions of the car in which it does not; empty where it never does. */
  when: string[];
  why: string[];
  /** What to tell the customer or to do. */
  whatThen: string;
}

/** Functions that neither car nor kit give here, what the customer gave up, and states that stay as they are. */
export const cannotOf = oncePer((plan: JobPlan): readonly Expected[] => [...lasting(plan), ...absent(plan)]);

function lasting({ fitted }: JobPlan): Expected[] {
  return (fitted.normal ?? [])
    .filter((n) => !n.lastsS)
    .map(({ id, title, seen, why, remedy }) => ({
      id: `normal:${id}`,
      name: title,
      when: [],
      why: [seen, why],
      whatThen: remedy,
    }));
}

function absent({ stock, fitted, settings, touched }: JobPlan): Expected[] {
  const lines = ledger(stock, fitted, settings, touched.parts);
  const missing = lines.filter((l) => l.verdict === "never" || l.verdict === "lost");
  return [...new Set(missing.map((l) => l.functionId))].map((fn) => {
    const mine = missing.filter((l) => l.functionId === fn);
    const always = lines.filter((l) => l.functionId === fn).length === mine.length;
    const lost = mine.some((l) => l.verdict === "lost");
    return {
      id: `function:${fn}`,
      name: mine[0]?.name ?? fn,
      when: always ? [] : mine.map((l) => l.label),
      why: [...new Set(mine.flatMap((l) => l.causes))],
      whatThen: lost
        ? "Given up with this kit. Tell the customer; there is nothing to mend."
        : "It was not there before. There is nothing to mend.",
    };
  });
}
