import { execFileSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { candump } from "../bus/formats/candump";
import { readAs } from "../bus/formats/format";
import { type IsoTpConfig, type IsoTpFailure, idleIsoTp, isoTp, isoTpDue } from "./iso-tp";
import { openCommands, readSlcan, slcanLine } from "./slcan";
import { idleTester, type Reply, tester, testerDue } from "./tester";
import { exchanges, transcriptLog } from "./transcript";
import { readAnswer, refusalWords, request, SESSION } from "./uds";

const payloads = fc.uint8Array({ minLength: 1, maxLength: 700 }).map((p) => [...p]);
const configs: fc.Arbitrary<IsoTpConfig> = fc.record(
  {
    padding: fc.constantFrom(0x00, 0x55, 0xaa, 0xcc),
    blockSize: fc.integer({ min: 0, max: 9 }),
    separationMs: fc.constantFrom(0, 0.5, 1, 20, 127),
    extended: fc.constant({ to: 0xf1, own: 0x40 }),
  },
  { requiredKeys: [] },
);

/** Sends a message from one machine to another; frames take no time. `lose` takes frames out of the way. */
function converse(payload: number[], config: IsoTpConfig, lose: (n: number) => boolean = () => false) {
  const other = config.extended
    ? { ...config, extended: { to: config.extended.own, own: config.extended.to } }
    : config;
  let a = idleIsoTp();
  let b = idleIsoTp();
  let now = 0;
  let count = 0;
  const onTheBus: number[][] = [];
  const result = { received: null as number[] | null, sent: false, failures: [] as IsoTpFailure[], onTheBus, atMs: 0 };
  const toB = (frames: number[][]): void => {
    for (const f of frames) {
      onTheBus.push(f);
      if (lose(count++)) continue;
      const s = isoTp(b, { kind: "frame", data: f }, now, other);
      b = s.state;
      result.received ??= s.received;
      if (s.failure) result.failures.push(s.failure);
      toA(s.frames);
    }
  };
  const toA = (frames: number[][]): void => {
    for (const f of frames) {
      onTheBus.push(f);
      if (lose(count++)) continue;
      take(isoTp(a, { kind: "frame", data: f }, now, config));
    }
  };
  const take = (s: ReturnType<typeof isoTp>) => {
    a = s.state;
    result.sent ||= s.sent;
    if (s.failure) result.failures.push(s.failure);
    toB(s.frames);
  };
  take(isoTp(a, { kind: "send", payload }, now, config));
  for (let i = 0; i < 2000; i++) {
    const due = [isoTpDue(a), isoTpDue(b)].filter((t) => t !== null);
    if (due.length === 0) break;
    now = Math.max(now, Math.min(...due));
    take(isoTp(a, { kind: "time" }, now, config));
    const s = isoTp(b, { kind: "time" }, now, other);
    b = s.state;
    if (s.failure) result.failures.push(s.failure);
  }
  result.atMs = now;
  return result;
}

describe("ISO-TP", () => {
  it("brings every message over, with both forms of address, any block and pause", () => {
    fc.assert(
      fc.property(payloads, configs, (payload, config) => {
        const { received, sent, failures } = converse(payload, config);
        expect(failures).toEqual([]);
        expect(sent).toBe(true);
        expect(received).toEqual(payload);
      }),
    );
  });

  it("brings over what needs the long length", () => {
    const payload = Array.from({ length: 5000 }, (_, i) => i & 255);
    const { received, onTheBus } = converse(payload, {});
    expect(received).toEqual(payload);
    // 10 00 and four bytes of length: ISO 15765-2 (from memory).
    expect(onTheBus[0]?.slice(0, 6)).toEqual([0x10, 0, 0, 0, 0x13, 0x88]);
  });

  it("keeps the pause that the other side wants", () => {
    // 20 bytes: first frame and two consecutive ones, so one pause lies between them.
    expect(converse(Array(20).fill(7), { separationMs: 20 }).atMs).toBe(20);
    expect(converse(Array(20).fill(7), { separationMs: 0.3 }).atMs).toBeCloseTo(0.3);
  });

  it.each([
    ["the first frame", (n: number) => n === 0, ["no flow control"]],
    ["the flow control", (n: number) => n === 1, ["no flow control", "frame missing"]],
    ["a frame in the middle", (n: number) => n === 3, ["wrong sequence"]],
    ["the last frame", (n: number) => n === 4, ["frame missing"]],
  ])("says that %s was lost and does not invent a message", (_, lose, failures) => {
    const result = converse(Array(27).fill(1), {}, lose);
    expect(result.received).toBeNull();
    expect(result.failures.sort()).toEqual([...failures].sort());
  });

  it("refuses what is too long for it", () => {
    const result = converse(Array(100).fill(1), { maxLength: 64 });
    expect(result.failures).toEqual(["too long", "too long for the other side"]);
    expect(result.received).toBeNull();
  });

  it("waits when it is asked to, but not for ever", () => {
    const first = isoTp(idleIsoTp(), { kind: "send", payload: Array(20).fill(1) }, 0);
    let { state } = first;
    for (let i = 0; i < 10; i++) {
      const s = isoTp(state, { kind: "frame", data: [0x31, 0, 0] }, i * 900);
      expect(s.failure).toBeNull();
      state = s.state;
    }
    expect(isoTp(state, { kind: "frame", data: [0x31, 0, 0] }, 9000).failure).toBe("kept waiting");
  });

  it("takes a new message in the middle of an old one and says so", () => {
    const s = isoTp(idleIsoTp(), { kind: "frame", data: [0x10, 20, 1, 2, 3, 4, 5, 6] }, 0);
    const t = isoTp(s.state, { kind: "frame", data: [2, 9, 9] }, 1);
    expect(t).toMatchObject({ received: [9, 9], failure: "interrupted", state: { rx: null } });
  });

  it.each([
    [[]],
    [[0x00]],
    [[0x05, 1, 2]],
    [[0x21, 1, 2, 3]],
    [[0x30, 0, 0]],
    [[0x10, 3, 1, 2, 3, 0, 0, 0]],
    [[0x10, 0, 0, 0, 0, 9, 1, 2]],
    [[0x40, 1]],
    [[0xff, 255, 255]],
  ])("lets a frame that means nothing pass: %j", (data) => {
    expect(isoTp(idleIsoTp(), { kind: "frame", data }, 0)).toEqual({
      state: idleIsoTp(),
      frames: [],
      received: null,
      sent: false,
      failure: null,
    });
  });

  it("never breaks on random frames", () => {
    fc.assert(
      fc.property(fc.array(fc.uint8Array({ maxLength: 8 }), { maxLength: 40 }), (frames) => {
        let state = idleIsoTp();
        frames.forEach((data, i) => {
          state = isoTp(state, { kind: "frame", data }, i).state;
        });
        expect(state.tx).toBeNull();
      }),
    );
  });
});

const hexOf = (bytes: ArrayLike<number>) => Buffer.from(Array.from(bytes)).toString("hex");

describe("against scapy's ISO-TP and UDS layers", () => {
  // Source: scapy (Debian's python3-scapy), an independent implementation; it has neither timers nor flow control.
  const script = `
import sys, json
from scapy.layers.can import CAN
from scapy.contrib.isotp import ISOTP, ISOTPMessageBuilder
q = json.load(sys.stdin)
out = []
for p in q:
    frames = [bytes(f.data).hex() for f in ISOTP(bytes.fromhex(p["payload"]), rx_id=0x7e0).fragment()]
    b = ISOTPMessageBuilder(use_ext_address=False)
    for f in p["frames"]: b.feed(CAN(identifier=0x7e0, data=bytes.fromhex(f)))
    out.append({"frames": frames, "messages": [m.data.hex() for m in b]})
print(json.dumps(out))
`;

  it("cuts and joins the same frames", () => {
    const sample = [
      ...fc.sample(payloads, { numRuns: 60, seed: 4 }),
      Array(7).fill(1),
      Array(8).fill(2),
      Array(4095).fill(3),
      Array(4096).fill(4),
    ];
    const ours = sample.map((payload) => converse(payload, {}).onTheBus.filter((f) => (f[0] ?? 0) >> 4 !== 3));
    const input = sample.map((payload, i) => ({ payload: hexOf(payload), frames: ours[i]?.map(hexOf) }));
    const out: { frames: string[]; messages: string[] }[] = JSON.parse(
      execFileSync("/usr/bin/python3", ["-c", script], {
        input: JSON.stringify(input),
        encoding: "utf8",
        stdio: ["pipe", "pipe", "ignore"],
      }),
    );
    expect(out).toHaveLength(sample.length);
    out.forEach(({ frames, messages }, i) => {
      expect(frames).toEqual(ours[i]?.map(hexOf));
      expect(messages).toEqual([hexOf(sample[i] ?? [])]);
    });
  });

  it("builds the requests that scapy and tshark read", () => {
    const made: [string, number[]][] = [
      ["DiagnosticSessionControl", request.session(SESSION.extended)],
      ["TesterPresent", request.testerPresent()],
      ["ReadDataByIdentifier", request.readData(0xf190)],
      ["WriteDataByIdentifier", request.writeData(0x0600, [1, 2, 3])],
      ["ReadDTCInformation", request.readCodes(0x08)],
      ["ReadDTCInformation", request.supportedCodes()],
      ["ReadDTCInformation", request.codeRecords([0x9a, 0x15, 0x13])],
      ["ClearDiagnosticInformation", request.clearCodes()],
      ["SecurityAccess", request.seed(1)],
      ["SecurityAccess", request.key(1, [9, 9])],
      ["ControlDTCSetting", request.codeSetting(false)],
      ["RoutineControl", request.startRoutine(0x0203)],
    ];
    const names: string[] = JSON.parse(
      execFileSync(
        "/usr/bin/python3",
        [
          "-c",
          `
import sys, json
from scapy.contrib.automotive.uds import UDS
print(json.dumps([[p.name for p in [UDS(bytes.fromhex(m)).payload]][0] for m in json.load(sys.stdin)]))
`,
        ],
        { input: JSON.stringify(made.map(([, m]) => hexOf(m))), encoding: "utf8", stdio: ["pipe", "pipe", "ignore"] },
      ),
    );
    expect(names).toEqual(made.map(([name]) => name));
  });

  it("a log of a conversation is dissected by tshark as it was meant", () => {
    const identification = [0x62, 0xf1, 0x90, ...Buffer.from("ITERONTEST0000001")];
    const frames = [
      ...converse(request.readData(0xf190), { padding: 0x55 }).onTheBus.map((data) => ({ id: 0x7e0, data })),
      ...converse(identification, { padding: 0xaa, blockSize: 1 }).onTheBus.map((data) => ({
        id: (data[0] ?? 0) >> 4 === 3 ? 0x7e0 : 0x7e8,
        data,
      })),
      ...converse([0x7f, 0x2e, 0x78], {}).onTheBus.map((data) => ({ id: 0x7e8, data })),
    ].map((f, i) => ({ ...f, atMs: i * 10 }));
    const file = join(mkdtempSync(join(tmpdir(), "iteron-uds-")), "uds.log");
    const log = transcriptLog(frames, 1_700_000_000);
    writeFileSync(file, log);
    expect(exchanges(readAs(candump, Buffer.from(log)).frames, { request: 0x7e0, answer: 0x7e8 })).toMatchObject([
      { request: request.readData(0xf190), answer: { kind: "positive", data: identification.slice(3) } },
    ]);
    const fields = ["uds.reply", "uds.rdbi.data_identifier", "uds.rdbi.data_record", "uds.err.code"];
    const text = execFileSync(
      "tshark",
      [
        "-r",
        file,
        "-o",
        "iso15765.can.ids:0x7e0,0x7e8",
        "-d",
        "iso15765.subdissector,uds",
        "-Y",
        "uds",
        "-T",
        "fields",
        "-E",
        "separator=|",
        ...fields.flatMap((f) => ["-e", f]),
      ],
      { encoding: "utf8", stdio: ["ignore", "pipe", "ignore"] },
    );
    expect(text.trim().split("\n")).toEqual([
      "0x00|0xf190||",
      `0x01|0xf190|${hexOf(Buffer.from("ITERONTEST0000001"))}|`,
      "0x01|||0x78",
    ]);
  });
});

describe("the tester", () => {
  /** Asks, and lets a unit answer with these messages at these times. */
  function ask(asked: number[], answers: { atMs: number; message: number[] }[]): { reply: Reply | null; atMs: number } {
    let now = 0;
    let step = tester(idleTester(), { kind: "ask", request: asked }, now);
    let unit = idleIsoTp();
    const queue = answers.map((a) => ({ ...a }));
    for (let i = 0; i < 1000 && !step.reply; i++) {
      const due = Math.min(testerDue(step.state) ?? Infinity, isoTpDue(unit) ?? Infinity, queue[0]?.atMs ?? Infinity);
      now = Math.max(now, due);
      const out = [];
      if (queue[0] && queue[0].atMs <= now) {
        const s = isoTp(unit, { kind: "send", payload: queue.shift()?.message ?? [] }, now);
        unit = s.state;
        out.push(...s.frames);
      } else {
        const s = isoTp(unit, { kind: "time" }, now);
        unit = s.state;
        out.push(...s.frames);
        step = tester(step.state, { kind: "time" }, now);
      }
      while (out.length > 0 && !step.reply) {
        step = tester(step.state, { kind: "frame", data: out.shift() ?? [] }, now);
        for (const f of step.frames) {
          const s = isoTp(unit, { kind: "frame", data: f }, now);
          unit = s.state;
          out.push(...s.frames);
        }
      }
    }
    return { reply: step.reply, atMs: now };
  }

  it("gives the data behind what the answer repeats", () => {
    const { reply } = ask(request.readData(0x0600), [{ atMs: 20, message: [0x62, 6, 0, 1, 2, 3] }]);
    expect(reply).toEqual({ kind: "positive", data: [1, 2, 3] });
  });

  it("takes a long answer and waits while the unit wants time", () => {
    const long = [0x62, 6, 0, ...Array(60).fill(5)];
    const { reply } = ask(request.readData(0x0600), [
      { atMs: 40, message: [0x7f, 0x22, 0x78] },
      { atMs: 4500, message: [0x7f, 0x22, 0x78] },
      { atMs: 9000, message: long },
    ]);
    expect(reply).toEqual({ kind: "positive", data: Array(60).fill(5) });
  });

  it("does not take the answer to something else", () => {
    const { reply } = ask(request.readData(0x0600), [
      { atMs: 10, message: [0x62, 6, 1, 9] },
      { atMs: 20, message: [0x7f, 0x2e, 0x31] },
      { atMs: 30, message: [0x7f, 0x22, 0x31] },
    ]);
    expect(reply).toEqual({ kind: "refused", code: 0x31 });
  });

  it("says that nothing came, and when", () => {
    expect(ask(request.readData(0x0600), [])).toEqual({ reply: { kind: "silence" }, atMs: 250 });
    // P2* is 5000 ms: ISO 14229-2 (from memory).
    expect(ask(request.readData(0x0600), [{ atMs: 40, message: [0x7f, 0x22, 0x78] }])).toEqual({
      reply: { kind: "silence" },
      atMs: 5040,
    });
  });

  it("ends a unit that asks for time without end", () => {
    const answers = Array.from({ length: 40 }, (_, i) => ({ atMs: 100 + i * 1000, message: [0x7f, 0x22, 0x78] }));
    expect(ask(request.readData(0x0600), answers).reply).toEqual({ kind: "silence" });
  });

  it("does not wait where no answer is asked for", () => {
    expect(tester(idleTester(), { kind: "ask", request: request.testerPresent() }, 0).reply?.kind).toBe("positive");
  });

  it("has words and a remedy for every refusal, also an unknown one", () => {
    expect(refusalWords(0x33).say).toBe("It is locked.");
    expect(refusalWords(0xee).say).toContain("EE");
    expect(readAnswer([0x22, 6, 0], [0x7f, 0x22])).toEqual({ kind: "strange" });
  });
});

describe("the text protocol of serial adapters", () => {
  // As documented for the Linux kernel's slcan driver and can-utils.
  it("writes frames of both lengths and opens at 500 kbit/s", () => {
    expect(slcanLine({ id: 0x7e0, extended: false, data: [2, 0x10, 3] })).toBe("t7E03021003\r");
    expect(slcanLine({ id: 0x18da10f1, extended: true, data: [] })).toBe("T18DA10F10\r");
    expect(openCommands(500, "listen")).toEqual(["C\r", "S6\r", "L\r"]);
    expect(openCommands(125, "send")).toEqual(["C\r", "S4\r", "O\r"]);
  });

  it("reads what it writes, cut anywhere, between answers and refusals", () => {
    const frame = fc.record({
      id: fc.integer({ min: 0, max: 0x7ff }),
      extended: fc.boolean(),
      data: fc.uint8Array({ maxLength: 8 }).map((d) => [...d]),
    });
    fc.assert(
      fc.property(fc.array(frame, { maxLength: 12 }), fc.nat(), (frames, cut) => {
        const text = frames.map((f) => `\r${slcanLine(f)}z\r\u0007`).join("");
        const at = text.length === 0 ? 0 : cut % text.length;
        const first = readSlcan(text.slice(0, at));
        const second = readSlcan(first.rest + text.slice(at));
        expect([...first.frames, ...second.frames]).toEqual(frames);
        expect(first.refused + second.refused).toBe(frames.length);
        expect([...first.strange, ...second.strange]).toEqual([]);
      }),
    );
  });

  it("passes over remote frames and versions, takes a time stamp, names the rest", () => {
    const read = readSlcan("V1013\rr1230\rt123201021A2B\rt9990\rt12\r");
    expect(read.frames).toEqual([{ id: 0x123, extended: false, data: [1, 2] }]);
    expect(read.strange).toEqual(["t9990", "t12"]);
  });
});
