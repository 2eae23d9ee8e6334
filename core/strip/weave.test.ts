import { describe, expect, it } from "vitest";
import { comparedOrder } from "../../tests/support/whole-order";
import { emptyJournal } from "../log/fold";
import { planRoute, tasksLeft } from "./route";
import { PARKED } from "./vehicle-state";
import { type Beside, weave } from "./weave";

const work = (id: string, more: Partial<Beside> = {}): Beside => ({
  id,
  minutes: 4,
  after: [],
  behind: [],
  fills: true,
  ...more,
});
const airbag = (id: string, after: string[] = []) => ({
  id,
  title: id,
  detail: "",
  after,
  minutes: { low: 1, likely: 2, high: 3 },
  airbagZone: true,
});
const plain = (id: string, after: string[] = []) => ({ ...airbag(id, after), airbagZone: false });

function names(steps: ReturnType<typeof airbag>[], beside: Beside[], waitNow = 0): string[] {
  const plan = { steps, batteryWaitMin: 10 };
  const base = { plan, goals: [], closing: "proveFirst" as const, measured: {} };
  const journal = emptyJournal();
  const route = planRoute(base, journal);
  const left = tasksLeft(route, base, journal, PARKED, route.steps);
  return weave(left, beside, { now: waitNow, each: 10 }).map((w) => ("task" in w ? w.task.id : `+${w.beside.id}`));
}

describe("work beside the steps", () => {
  it("fills the wait for the airbags, and no more of it than that", () => {
    expect(names([airbag("a")], [work("1"), work("2"), work("3"), work("4")])).toEqual([
      "brake",
      "battery-off",
      "+1",
      "+2",
      "+3",
      "a",
      "+4",
    ]);
  });

  it("comes behind the last step where nothing has to wait", () => {
    expect(names([plain("a"), plain("b", ["a"])], [work("1")])).toEqual(["brake", "a", "b", "+1"]);
  });

  it("waits for what lies before it, for the work it stands on, and keeps what gives power for the end", () => {
    const order = names(
      [plain("cover"), airbag("knee")],
      [
        work("behind knee", { after: ["knee"] }),
        work("on it", { behind: ["behind knee"] }),
        work("power", { fills: false }),
        work("free", { after: ["cover"] }),
      ],
    );
    expect(order.indexOf("+free")).toBeLessThan(order.indexOf("knee"));
    expect(order.slice(order.indexOf("knee"))).toEqual(["knee", "+behind knee", "+on it", "+power"]);
  });

  it("costs on random small plans what the best of all orders costs, within a twentieth", () => {
    const ratios: number[] = [];
    for (let seed = 1; seed <= 12; seed++) {
      const { woven, best, listed } = comparedOrder(seed);
      expect(woven).toBeGreaterThanOrEqual(best - 1e-9);
      expect(woven).toBeLessThanOrEqual(listed + 1e-9);
      ratios.push(woven / best);
    }
    expect(ratios.reduce((a, b) => a + b) / ratios.length).toBeLessThan(1.05);
  });
});
