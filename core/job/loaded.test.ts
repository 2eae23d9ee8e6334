import { describe, expect, test } from "vitest";
import { shippedLibrary } from "../../profiles/library";
import { jobOf, press, refusalOf } from "../../tests/support/jobs";
import type { Command } from "../log/entry";
import { certificateOf } from "./certificate";
import type { Job, OpenedWith } from "./job";
import { openNow } from "./plan";
import { isSet } from "./set-state";

const NOW = "2026-11-27T09:00:00Z";
const library = shippedLibrary();
const find = (id: string) => library.find((p) => p.id === id);
const OPENED = {
  car: find("sundrey-tarn-21"),
  variant: find("sundrey-tarn-21-t1"),
  kit: find("orvanto-om9-blank"),
} as OpenedWith;
const OWN = "0SUTA21AAAA123456";

const load = (what: "blank" | "loaded", identification = "", data = ""): Command => ({
  kind: "configure.loaded",
  data: { setting: "module.data", what, identification, data, translation: false },
});

describe("a module that is loaded on a computer", () => {
  const job = press(jobOf(OPENED), {
    kind: "intake.car",
    data: { changed: { identification: OWN }, before: {} },
  } as Command);
  const stands = (j: Job) => {
    const set = j.plan.sets.find((s) => s.setting === "module.data");
    return set !== undefined && isSet(j.plan, j.state, set);
  };

  test("is blank until it was seen loaded for this car, whole or by the end of its number", () => {
    expect(stands(job)).toBe(false);
    for (const number of [OWN, "123456", "aaa 123456"]) {
      const done = press(job, load("loaded", number, "Tarn 2.1"));
      expect(done.state.loads.get("module.data")?.car).toBe("this");
      expect(stands(done)).toBe(true);
      expect(openNow(done.plan, done.state).settings?.["module.data"]).toBeUndefined();
    }
    expect(stands(press(job, load("blank")))).toBe(false);
  });

  test("that is for another car is found, and counts as not loaded", () => {
    const other = press(job, load("loaded", "0SUTA21AAAA999999"));
    expect(other.state.loads.get("module.data")?.car).toBe("another");
    expect(stands(other)).toBe(false);
    expect(openNow(other.plan, other.state).settings?.["module.data"]).toBe("blank");
    const anew = press(other, load("loaded", "123456"));
    expect(stands(anew)).toBe(true);
  });

  test("of which nothing says for which car stays open to doubt, and says so", () => {
    expect(press(job, load("loaded")).state.loads.get("module.data")?.car).toBe("notKnown");
    expect(press(jobOf(OPENED), load("loaded", "123456")).state.loads.get("module.data")?.car).toBe("notKnown");
  });

  test("is refused a number that fits many cars, a setting that is not loaded, and a tick beside its record", () => {
    expect(refusalOf(job, load("loaded", "3456"), NOW)).toMatch(/too short/);
    const [other] = job.plan.sets.filter((s) => s.means !== "programming");
    expect(
      refusalOf(
        job,
        {
          kind: "configure.loaded",
          data: { setting: other?.setting ?? "", what: "loaded", identification: "", data: "", translation: false },
        },
        NOW,
      ),
    ).toMatch(/not loaded on a computer/);
    const noted = press(job, load("blank"));
    expect(refusalOf(noted, { kind: "configure.set", data: { setting: "module.data", done: true } }, NOW)).toMatch(
      /cannot be ticked/,
    );
  });

  test("stands on the certificate", () => {
    const done = press(job, load("loaded", "123456", "Tarn 2.1"));
    const lines = certificateOf(done, NOW).sections.flatMap((s) => s.lines);
    expect(lines).toContain("Module loaded: Tarn 2.1, for 123456, seen by Test.");
  });
});
