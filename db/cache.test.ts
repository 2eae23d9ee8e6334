import { describe, expect, it } from "vitest";
import { cacheReport, keep, recall, recallOr } from "./cache";

describe("the cache", () => {
  it("makes a thing once and keeps spaces apart", () => {
    let made = 0;
    const make = () => ({ n: ++made });
    const first = recallOr("plan", "a", 10, make);
    expect(recallOr("plan", "a", 10, make)).toBe(first);
    expect(recall("document", "a")).toBeUndefined();
    expect(made).toBe(1);
    const { plan } = cacheReport();
    expect([plan.hits, plan.misses]).toEqual([1, 1]);
  });

  it("stays within its bounds: what was not asked for the longest goes first", () => {
    const megabytes = 100;
    for (let i = 0; i < 5; i++) {
      keep("ranking", `big ${i}`, { i }, megabytes * 1024);
      recall("ranking", "big 0");
    }
    expect(cacheReport().kb).toBeLessThanOrEqual(256 * 1024);
    expect(recall("ranking", "big 0")).toEqual({ i: 0 });
    expect(recall("ranking", "big 1")).toBeUndefined();
  });
});
