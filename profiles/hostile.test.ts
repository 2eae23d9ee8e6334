import { describe, expect, it } from "vitest";
import { hostileReaders, longOnes, spoilt, tried } from "../tests/support/hostile";

const SPOILT = 60;
const readers = hostileReaders();

describe("a reader of files from outside", () => {
  it.each(readers)("takes its sample and what is made of it, or refuses in words: $name", (reader) => {
    expect(tried(reader, reader.sample).kind).toBe(reader.name === "bundle of anything" ? "refused" : "read");
    const bad: string[] = [];
    for (let n = 0; n < SPOILT; n++) {
      const verdict = tried(reader, spoilt(reader.sample, n));
      if (verdict.kind === "bad") bad.push(`${n}: ${verdict.what}`);
    }
    expect(bad).toEqual([]);
  });

  it.each(longOnes())("takes what is long or deep on purpose: %s", (_, text) => {
    const bytes = new TextEncoder().encode(text);
    const bad = readers.flatMap((r) => {
      const verdict = tried(r, bytes);
      return verdict.kind === "bad" ? [`${r.name}: ${verdict.what}`] : [];
    });
    expect(bad).toEqual([]);
  });
});
