/** Reading logs, decoding and the hunt, each against a peer in the same run or with what it needs. */
import { execFileSync } from "node:child_process";
import { openSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { rowsById } from "../../core/bus/by-id";
import { parseDbc } from "../../core/bus/dbc";
import { decodeSeries } from "../../core/bus/decode";
import { asc } from "../../core/bus/formats/asc";
import { candump } from "../../core/bus/formats/candump";
import { readAs } from "../../core/bus/formats/format";
import { FrameBuilder, type Frames, packFrames } from "../../core/bus/frames";
import type { Cue, Thing } from "../../core/bus/hunt/cues";
import { hunt } from "../../core/bus/hunt/hunt";
import { busLoads, statistics } from "../../core/bus/statistics";
import { seededRandom } from "../../sim/random";
import { traffic } from "../support/bus-traffic";
import { medianMs, report } from "./report";

const LINES = 1_000_000;
const folder = join(".iteron", "bench");
const log = join(folder, "million.log");
const ascFile = join(folder, "million.asc");
const frames = random(LINES);
writeFileSync(log, [...(candump.write?.(frames) ?? [])].join(""));
const nowhere = openSync("/dev/null", "w");
execFileSync("log2asc", ["-I", log, "-O", ascFile, "can0"], { stdio: "ignore" });

// Both read the file from disk; log2asc writes its result to /dev/null, we keep ours in memory.
const ours = medianMs(5, () => {
  const { frames: read, badLines } = readAs(candump, readFileSync(log));
  if (read.count !== LINES || badLines !== 0) throw new Error(`${read.count} frames, ${badLines} bad lines`);
});
const theirs = medianMs(3, () => {
  execFileSync("log2asc", ["-I", log, "can0"], { stdio: ["ignore", nowhere, nowhere] });
});
report({
  case: "read a candump log of 1,000,000 lines",
  value: ours,
  unit: "ms",
  peer: "log2asc",
  peerValue: theirs,
  ratio: theirs / ours,
  note: "aim: ratio at least 8",
});

const oursAsc = medianMs(5, () => {
  const { frames: read, badLines } = readAs(asc, readFileSync(ascFile));
  if (read.count !== LINES || badLines !== 0) throw new Error(`${read.count} frames, ${badLines} bad lines`);
});
const python = `
import can, sys, time
t = time.time()
n = sum(1 for _ in can.LogReader(sys.argv[1]))
print((time.time() - t) * 1000)`;
const theirsAsc = Number(execFileSync("/usr/bin/python3", ["-c", python, ascFile], { encoding: "utf8" }));
report({
  case: "read an ASC log of 1,000,000 lines",
  value: oursAsc,
  unit: "ms",
  peer: "python-can, without its start",
  peerValue: theirsAsc,
  ratio: theirsAsc / oursAsc,
  note: `aim: ratio at least 5; against the candump log ${(oursAsc / ours).toFixed(2)} times, aim at most 2`,
});

const held = packFrames(frames).parts.reduce((n, p) => n + p.byteLength, 0);
report({ case: "memory of a frame of eight bytes", value: held / LINES, unit: "bytes", note: "aim: at most 40" });

const groups = rowsById(frames);
report({
  case: "what is on a bus of 1,000,000 frames: statistics and load with stuff bits",
  value: medianMs(3, () => void [statistics(frames, rowsById(frames)), busLoads(frames, 500_000)]),
  unit: "ms",
});
const dbc = parseDbc(
  `BO_ 5 M: 8 X\n SG_ A : 3|13@1+ (0.1,-5) [0|0] "" X\n SG_ B : 39|16@0- (0.5,1) [0|0] "" X\n SG_ C : 40|24@1+ (1,0) [0|0] "" X\n`,
);
const [message] = dbc.messages;
if (!message) throw new Error("no message");
const all = Uint32Array.from({ length: LINES }, (_, i) => i);
report({
  case: "decode three signals of 1,000,000 frames",
  value: medianMs(5, () => {
    for (const s of message.signals) decodeSeries(frames, message, s, all);
  }),
  unit: "ms",
  note: `${groups.length} identifiers; exact, checked against canmatrix in the tests`,
});

// A million frames with twenty cues: five keys, each four times.
const made = traffic(3, 200, 4);
const wheel = made.things.filter((t: Thing) => t.id === "wheel");
const cues = made.cues.filter((c: Cue) => c.thing === "wheel");
const million = doubled(made.frames, LINES);
report({
  case: `hunt ${cues.length} cues in ${million.count.toLocaleString("en")} frames of 200 identifiers`,
  value: medianMs(1, () => {
    const { things } = hunt(million, wheel, cues);
    if (things[0]?.candidates[0]?.sure !== true) throw new Error("not found");
  }),
  unit: "ms",
  note: "aim: at most 5,000",
});

/** Random frames of 2,048 identifiers, four a millisecond. */
function random(count: number): Frames {
  const next = seededRandom(1);
  const builder = new FrameBuilder();
  for (let i = 0; i < count; i++)
    builder.add({
      timeS: 1_700_000_000 + i / 4000,
      id: Math.floor(next() * 0x7ff),
      flags: 0,
      channel: 0,
      length: 8,
      data: Array.from({ length: 8 }, () => Math.floor(next() * 256)),
    });
  return builder.finish(["can0"]);
}

/** The first frames of a log, or all of them with more of the same behind. */
function doubled(of: Frames, count: number): Frames {
  const builder = new FrameBuilder();
  const spanS = (of.timeS[of.count - 1] ?? 0) - (of.timeS[0] ?? 0) + 0.01;
  for (let i = 0; i < count; i++) {
    const row = i % of.count;
    const at = of.at[row] ?? 0;
    builder.add({
      timeS: (of.timeS[row] ?? 0) + spanS * Math.floor(i / of.count),
      id: of.id[row] ?? 0,
      flags: 0,
      channel: 0,
      length: of.length[row] ?? 0,
      data: of.data.subarray(at, at + (of.length[row] ?? 0)),
    });
  }
  return builder.finish(of.channels);
}
