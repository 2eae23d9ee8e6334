/** Three thousand spoilt files for each reader, and what is long or deep on purpose, with the time it takes. */
import { describe, expect, it } from "vitest";
import { type HostileReader, hostileReaders, longOnes, spoilt, tried, type Verdict } from "../support/hostile";
import { report } from "./shop";

const SPOILT = 3000;
const MOST_MS = 200;

/** With the milliseconds of processor that it took: what else the machine does is not measured. */
function timed(reader: HostileReader, bytes: Uint8Array): [Verdict, number] {
  const begun = process.cpuUsage();
  const verdict = tried(reader, bytes);
  const { user, system } = process.cpuUsage(begun);
  return [verdict, (user + system) / 1000];
}

describe("spoilt files", () => {
  it("are read or refused in words, each in less than 200 ms", () => {
    const found = { inputs: 0, read: 0, refused: 0, slow: 0, longest: 0 };
    const bad: string[] = [];
    const readers = hostileReaders();
    const long = longOnes().map(([, text]) => new TextEncoder().encode(text));
    for (const reader of readers) {
      tried(reader, reader.sample);
      const inputs = [...long, ...Array.from({ length: SPOILT }, (_, n) => spoilt(reader.sample, n))];
      for (const [n, bytes] of inputs.entries()) {
        let [verdict, ms] = timed(reader, bytes);
        // Compiling and clearing up fall on any one of them: the best of three counts.
        for (let again = 0; ms > MOST_MS && again < 2; again++) ms = Math.min(ms, timed(reader, bytes)[1]);
        found.inputs++;
        if (ms > MOST_MS) found.slow++;
        found.longest = Math.max(found.longest, ms);
        if (verdict.kind === "bad") bad.push(`${reader.name} ${n}: ${verdict.what}`);
        else found[verdict.kind]++;
      }
    }
    report(
      `spoilt files, ${readers.length} readers`,
      `${found.inputs} inputs: ${found.read} read, ${found.refused} refused in words, ${bad.length} otherwise; ${found.slow} over ${MOST_MS} ms, the longest ${found.longest.toFixed(0)} ms`,
    );
    expect(bad).toEqual([]);
    expect(found.slow).toBe(0);
  });
});
