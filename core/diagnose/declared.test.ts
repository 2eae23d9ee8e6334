import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { fittingJobs } from "../../tests/bench/jobs";
import { planJob } from "../job/plan";
import { hypothesesOfPlan } from "../job/suspects";
import { passing } from "./declared";
import { judge } from "./judge";
import { judgeTable } from "./table";

const plan = planJob(demoDocuments(), { choices: null });
const causes = hypothesesOfPlan(plan).filter((h) => h.kind === "declared");
const shown = (id: string) => {
  const cause = causes.find((c) => c.id === id);
  return plan.tests.flatMap((t) => {
    const [most] = cause?.shows?.(t) ?? [];
    return most && most[0] !== "works" ? [`${t.id} ${most[0]}`] : [];
  });
};

describe("causes that change nothing in the graph", () => {
  it("hum where the phone goes over the line output, and only there", () => {
    expect(shown("hum:module")).toEqual(["phoneSound/on hum"]);
  });

  it("break off what goes through the module when it gets warm, not the radio's own", () => {
    const warm = shown("warm:module");
    expect(warm).toContain("phonePicture/wireless breaksOff:warm");
    expect(warm.join()).not.toContain("tunerSound");
  });

  it("break off at the engine start only where the engine runs", () => {
    const running = plan.tests.filter((t) => t.situation.key === "running").map((t) => t.id);
    for (const line of shown("sag:module")) expect(running).toContain(line.split(" ")[0]);
  });

  it("are named where they fit what was seen", () => {
    const table = judgeTable(plan.fitted, plan.tests, plan.touched);
    if (!table) throw new Error("it was not stopped");
    const first = (tests: Record<string, string>) =>
      judge(table, { tests: new Map(Object.entries(tests)), looks: new Map() })
        .groups.slice(0, 2)
        .flatMap((g) => g.members.map((m) => m.id));
    expect(first({ "phoneSound/on": "hum", "phonePicture/wireless": "works" })).toContain("hum:module");
    expect(first({ "phonePicture/wireless": "breaksOff:warm", "factoryPicture/on": "works" })).toContain("warm:module");
  });

  it("have a look that settles them, in every shipped job", () => {
    for (const job of fittingJobs().filter((_, i) => i % 8 === 0)) {
      const table = judgeTable(job.fitted, job.tests, job.touched);
      for (const h of table?.hypotheses ?? [])
        if (h.kind === "declared") expect([h.id, table?.looks.some((l) => l.id === h.settledBy)]).toEqual([h.id, true]);
    }
  });
});

describe("a state that passes", () => {
  const boots = plan.fitted.normal?.find((n) => n.id === "boots");

  it("shows its own words, or any where it has none, and only at its functions", () => {
    if (!boots) throw new Error("the kit starts up");
    const at = (id: string) => plan.tests.find((t) => t.id === id) as (typeof plan.tests)[number];
    const sum = (p: ReturnType<ReturnType<typeof passing>>) => p.reduce((s, [, x]) => s + x, 0);
    const picture = passing(boots)(at("phonePicture/wireless"));
    expect(picture.map(([word]) => word)).toEqual(["works", "black", "late"]);
    expect(sum(picture)).toBeCloseTo(1, 9);
    expect(passing(boots)(at("hazard/key-off"))).toEqual([["works", 1]]);
    const { shows: _, ...silent } = boots;
    expect(passing(silent)(at("phonePicture/wireless")).length).toBeGreaterThan(5);
  });
});
