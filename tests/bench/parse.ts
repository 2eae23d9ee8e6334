/** Parsing a candump log of one million lines, against log2asc (can-utils) converting the same file. */
import { execFileSync } from "node:child_process";
import { openSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { candump } from "../../core/bus/formats/candump";
import { readAs } from "../../core/bus/formats/format";
import { seededRandom } from "../../sim/random";
import { medianMs, report } from "./report";

const LINES = 1_000_000;
const file = join(".iteron", "bench", "million.log");
writeFileSync(file, millionLines());

// Both read the file from disk; log2asc writes its result to /dev/null, we keep ours in memory.
const ours = medianMs(5, () => {
  const { frames, badLines } = readAs(candump, readFileSync(file));
  if (frames.count !== LINES || badLines !== 0) throw new Error(`${frames.count} frames, ${badLines} bad lines`);
});
const nowhere = openSync("/dev/null", "w");
const theirs = medianMs(3, () => {
  execFileSync("log2asc", ["-I", file, "can0"], { stdio: ["ignore", nowhere, nowhere] });
});
report({
  case: "parse a candump log of 1,000,000 lines",
  value: ours,
  unit: "ms",
  peer: "log2asc",
  peerValue: theirs,
  ratio: theirs / ours,
  note: "aim: ratio at least 5",
});

function millionLines(): string {
  const random = seededRandom(1);
  const lines: string[] = [];
  for (let i = 0; i < LINES; i++) {
    const id = Math.floor(random() * 0x7ff)
      .toString(16)
      .toUpperCase()
      .padStart(3, "0");
    let data = "";
    for (let b = 0; b < 8; b++)
      data += Math.floor(random() * 256)
        .toString(16)
        .toUpperCase()
        .padStart(2, "0");
    lines.push(`(${(1_700_000_000 + i / 4000).toFixed(6)}) can0 ${id}#${data}`);
  }
  return `${lines.join("\n")}\n`;
}
