import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { parseDbc } from "./dbc";
import type { DbcMessage, DbcSignal } from "./dbc-messages";
import { dbcText } from "./dbc-statements";
import { addToDbc, dbcBytes, EMPTY_DBC } from "./dbc-write";
import { decodeFrame, decodeSeries, valueNames } from "./decode";
import { candump } from "./formats/candump";
import { readAs } from "./formats/format";

const read = (text: string) => readAs(candump, new TextEncoder().encode(text)).frames;
const folder = mkdtempSync(join(tmpdir(), "iteron-dbc-"));

const DBC = `VERSION ""
NS_ :
	CM_
	BA_
BS_:
BU_: Body Radio
BO_ 256 Plain: 8 Body
 SG_ Little : 4|12@1+ (0.5,-10) [0|100] "km/h" Radio
 SG_ LittleSigned : 16|9@1- (1,0) [-256|255] "" Radio
 SG_ Big : 39|16@0+ (0.1,0) [0|6553.5] "rpm" Radio
 SG_ BigSigned : 50|10@0- (0.25,3) [-125|130] "" Radio
BO_ 2147484160 Far: 8 Body
 SG_ Real : 0|32@1- (1,0) [0|0] "" Radio
 SG_ RealBig : 39|32@0- (2,1) [0|0] "" Radio
BO_ 513 Mux: 4 Body
 SG_ Which M : 0|8@1+ (1,0) [0|3] "" Radio
 SG_ First m0 : 8|16@1+ (1,0) [0|65535] "" Radio
 SG_ Second m1 : 15|12@0- (1,5) [0|0] "" Radio
CM_ SG_ 256 Little "a comment
over two lines";
VAL_ 256 LittleSigned 0 "off" 1 "on" -1 "fault" ;
SIG_VALTYPE_ 2147484160 Real : 1;
SIG_VALTYPE_ 2147484160 RealBig : 1;
`;

describe("against canmatrix", () => {
  const dbc = parseDbc(DBC);

  it("reads messages, signals, value tables and extended identifiers without complaint", () => {
    expect(dbc.problems).toEqual([]);
    expect(dbc.messages.map((m) => [m.id, m.extended, m.signals.length])).toEqual([
      [256, false, 4],
      [512, true, 2],
      [513, false, 3],
    ]);
    expect(signal("Plain", "LittleSigned").values.get(-1)).toBe("fault");
    expect(signal("Far", "Real").kind).toBe("float32");
  });

  // Source: canmatrix (Debian's python3-canmatrix), an independent reader and decoder.
  it("decodes like canmatrix: both byte orders, signed, float, multiplexed", () => {
    const file = join(folder, "t.dbc");
    writeFileSync(file, DBC);
    let state = 12345;
    const random = () => {
      state = (Math.imul(state, 1103515245) + 12345) >>> 0;
      return (state >>> 16) & 255;
    };
    const frames = Array.from({ length: 150 }, (_, i) => {
      const message = dbc.messages[i % 3] ?? never();
      const data = Uint8Array.from({ length: message.length }, random);
      if (message.name === "Mux") data[0] = i % 2;
      // Whole numbers of moderate size as floats, so that no rounding or not-a-number gets in the way.
      if (message.name === "Far") {
        const view = new DataView(data.buffer);
        view.setFloat32(0, (random() - 128) / 4, true);
        view.setFloat32(4, random() * 3.5, false);
      }
      return { message, data };
    });
    const script = `
import json, sys, canmatrix.formats
db = canmatrix.formats.loadp_flat(sys.argv[1])
out = []
for name, hexdata in json.load(sys.stdin):
    frame = db.frame_by_name(name)
    out.append({k: float(v.phys_value) for k, v in frame.decode(bytearray.fromhex(hexdata)).items()})
print(json.dumps(out))`;
    const input = JSON.stringify(frames.map((f) => [f.message.name, Buffer.from(f.data).toString("hex")]));
    const theirs = JSON.parse(
      execFileSync("/usr/bin/python3", ["-c", script, file], {
        input,
        encoding: "utf8",
        stdio: ["pipe", "pipe", "ignore"],
      }),
    ) as Record<string, number>[];
    frames.forEach(({ message, data }, i) => {
      const ours = decodeFrame(message, data);
      const expected = theirs[i] ?? {};
      expect(ours.size).toBeGreaterThan(1);
      for (const [name, value] of ours)
        expect([message.name, name, value]).toEqual([
          message.name,
          name,
          expect.closeTo(expected[name] ?? Number.NaN, 5),
        ]);
    });
  });

  it("leaves out and names what it does not know", () => {
    const { messages, problems } = parseDbc(
      `BO_ 1 Good: 2 X\n SG_ A : 0|8@1+ (1,0) [0|0] "" X\nFOO_ something\n SG_ B : 12|8@1+ (1,0) [0|0] "" X\n SG_ C m3M : 0|4@1+ (1,0) [0|0] "" X\n SG_ D broken\nBO_ 9999 TooBig: 8 X\nVAL_ 1 Nothing 0 "x" ;\n`,
    );
    expect(messages[0]?.signals.map((s) => s.name)).toEqual(["A"]);
    expect(problems.map((p) => [p.line, p.code])).toEqual([
      [3, "keyword"],
      [4, "signal"],
      [5, "signal"],
      [6, "signal"],
      [7, "message"],
      [8, "signal"],
    ]);
  });

  it("gives a signal over time and passes over short frames", () => {
    const frames = read("(1.0) can0 201#00010000\n(2.0) can0 201#01FF0000\n(3.0) can0 201#00\n(4.0) can0 201#00020000");
    const message = dbc.messages[2] ?? never();
    const series = decodeSeries(frames, message, signal("Mux", "First"));
    expect([...series.timeS]).toEqual([1, 4]);
    expect([...series.value]).toEqual([1, 2]);
  });

  function signal(message: string, name: string): DbcSignal {
    return dbc.messages.find((m) => m.name === message)?.signals.find((s) => s.name === name) ?? never();
  }
});

describe("DBC text", () => {
  it("never throws, whatever it is given", () => {
    fc.assert(fc.property(fc.string({ maxLength: 400 }), (text) => parseDbc(text).messages.length >= 0));
    const pieces = fc.constantFrom(
      "BO_ ",
      "SG_ ",
      "VAL_ ",
      "256 ",
      "M: ",
      "8 X\n",
      " : 0|8@1+ (1,0) [0|0] ",
      '""',
      '"',
      "\n",
      "m0 ",
      ";",
    );
    fc.assert(fc.property(fc.array(pieces, { maxLength: 40 }), (list) => parseDbc(list.join("")).problems.length >= 0));
  });

  it("reads numbers with exponents and a file with a byte-order mark and Windows line ends", () => {
    const { messages, problems } = parseDbc(
      '\uFEFFVERSION ""\r\n\r\nBO_ 5 M: 8 X\r\n SG_ S : 0|16@1- (1e-3,-2.5E1) [-1e2|1e2] "V" X,Y\r\n',
    );
    expect(problems).toEqual([]);
    expect(messages[0]?.signals[0]).toMatchObject({
      factor: 0.001,
      offset: -25,
      minimum: -100,
      maximum: 100,
      kind: "signed",
    });
  });

  it("leaves the signals of a message that it cannot read out, and says so", () => {
    const { messages, problems } = parseDbc(
      'BO_ 5 Good: 2 X\n SG_ A : 0|8@1+ (1,0) [0|0] "" X\nBO_ 9999 TooBig: 8 X\n SG_ Lost : 8|8@1+ (1,0) [0|0] "" X\nBO_ 3221225472 Holder: 0 X\n SG_ Free : 8|8@1+ (1,0) [0|0] "" X\nBO_ 6 Next: 1 X\n SG_ B : 0|8@1+ (1,0) [0|0] "" X\n',
    );
    expect(messages.map((m) => [m.name, m.signals.map((x) => x.name)])).toEqual([
      ["Good", ["A"]],
      ["Next", ["B"]],
    ]);
    expect(problems.map((p) => [p.line, p.problem])).toEqual([
      [3, expect.stringContaining("out of range")],
      [4, expect.stringContaining("its message was left out")],
    ]);
  });

  it("reads past escaped quotation marks and strings over several lines; an open one swallows nothing", () => {
    const after = 'BO_ 6 Next: 1 X\n SG_ B : 0|8@1+ (1,0) [0|0] "" X\n';
    for (const comment of [
      'CM_ BO_ 5 "the \\"old\\" one";',
      'CM_ "two\nlines \\" here";',
      'CM_ "ends with a backslash C:\\";',
    ]) {
      const { messages, problems } = parseDbc(`${comment}\n${after}`);
      expect([comment, messages.map((m) => m.name), problems]).toEqual([comment, ["Next"], []]);
    }
    const open = parseDbc(`CM_ "never closed;\n${after}`);
    expect(open.messages.map((m) => m.signals.length)).toEqual([1]);
    expect(open.problems).toMatchObject([{ line: 1, problem: expect.stringContaining("never closed") }]);
    const named = parseDbc(`${after}VAL_ 6 B 1 "a \\"b\\"" 2 "c" ;\n`);
    expect([...(named.messages[0]?.signals[0]?.values ?? [])]).toEqual([
      [1, 'a "b"'],
      [2, "c"],
    ]);
  });

  it("refuses what is no number", () => {
    const { messages, problems } = parseDbc(
      'BO_ 5 M: 8 X\n SG_ S : 0|8@1+ (1.2.3,0) [0|0] "" X\n SG_ T : 0|8@1+ (.5,-1.) [0|0] "" X\n',
    );
    expect(problems).toHaveLength(1);
    expect(messages[0]?.signals).toMatchObject([{ name: "T", factor: 0.5, offset: -1 }]);
  });

  it("keeps the unit signs of older files", () => {
    const text = 'BO_ 5 M: 8 X\n SG_ S : 0|8@1+ (1,0) [0|0] "°C" X\n';
    const latin = Uint8Array.from([...text].map((c) => c.charCodeAt(0)));
    for (const bytes of [latin, new TextEncoder().encode(text)])
      expect(parseDbc(dbcText(bytes)).messages[0]?.signals[0]?.unit).toBe("°C");
  });

  it("names values by the physical value that is drawn, though the file has the raw one", () => {
    const { messages } = parseDbc('BO_ 5 M: 1 X\n SG_ S : 0|8@1+ (0.5,-10) [0|0] "" X\nVAL_ 5 S 0 "low" 4 "high" ;\n');
    const signal = messages[0]?.signals[0];
    expect(signal && [...valueNames(signal)]).toEqual([
      [-10, "low"],
      [-8, "high"],
    ]);
  });

  it("decodes a frame and a series alike, also where the frame is shorter than its message", () => {
    const { messages } = parseDbc(
      'BO_ 256 M: 8 X\n SG_ Page M : 0|8@1+ (1,0) [0|0] "" X\n SG_ One m1 : 8|16@1- (0.5,3) [0|0] "" X\n SG_ Two m2 : 15|12@0+ (1,0) [0|0] "" X\n SG_ Last : 56|8@1+ (1,0) [0|0] "" X\n',
    );
    const m = messages[0];
    if (!m) throw new Error("no message");
    const frame = fc
      .array(fc.integer({ min: 0, max: 255 }), { maxLength: 8 })
      .map((d) => (d.length > 0 ? [(d[0] ?? 0) % 4, ...d.slice(1)] : d));
    fc.assert(
      fc.property(fc.array(frame, { maxLength: 12 }), (list) => {
        const hex = (d: number[]) => d.map((b) => b.toString(16).padStart(2, "0")).join("");
        const frames = read(list.map((d, i) => `(${i}.0) can0 100#${hex(d)}`).join("\n"));
        for (const signal of m.signals) {
          const series = decodeSeries(frames, m, signal);
          const each = list.flatMap((d, i) => {
            const value = decodeFrame(m, Uint8Array.from(d)).get(signal.name);
            return value === undefined ? [] : [[i, value]];
          });
          expect([...series.timeS].map((t, i) => [t, series.value[i]])).toEqual(each);
        }
      }),
    );
  });
});

const RICH = `VERSION "1"

NS_ :
	CM_
	SG_MUL_VAL_

BS_:

BU_: Body Radio

BO_ 256 Pages: 8 Body
 SG_ Page M : 0|4@1+ (1,0) [0|15] "" Radio
 SG_ Sub m1M : 8|4@1+ (1,0) [0|15] "" Radio
 SG_ Deep m2 : 16|8@1+ (1,0) [0|255] "" Radio
 SG_ Wide m3 : 24|16@0- (0.5,1) [0|0] "°C" Radio
 SG_ Always : 56|8@1+ (1,0) [0|255] "" Radio

BO_ 2684354559 Far: 8 Radio
 SG_ Long : 0|64@1- (1,0) [0|0] "" Body

CM_ "of the network; kept
over two lines";
CM_ SG_ 256 Deep "says \\"deep\\"";
BA_DEF_ BO_ "GenMsgCycleTime" INT 0 10000;
BA_DEF_DEF_ "GenMsgCycleTime" 100;
BA_ "GenMsgCycleTime" BO_ 256 50;
EV_ Light: 0 [0|1] "" 0 1 NODE Body;
VAL_ 256 Page 0 "none" 1 "one" ;
SG_MUL_VAL_ 256 Sub Page 1-1;
SG_MUL_VAL_ 256 Deep Sub 2-2, 4-6;
SG_MUL_VAL_ 256 Wide Page 3-5;
`;

describe("multiplexing in stages", () => {
  const dbc = parseDbc(RICH);
  const [pages] = dbc.messages as [DbcMessage];
  const shown = (...data: number[]) => [
    ...decodeFrame(
      pages,
      Uint8Array.from({ length: 8 }, (_, i) => data[i] ?? 0),
    ).keys(),
  ];

  it("shows a signal only when all its selectors choose it, in ranges too", () => {
    expect(dbc.problems).toEqual([]);
    expect(shown(0)).toEqual(["Page", "Always"]);
    expect(shown(1, 3)).toEqual(["Page", "Sub", "Always"]);
    expect(shown(1, 2)).toEqual(["Page", "Sub", "Deep", "Always"]);
    expect(shown(1, 5)).toEqual(["Page", "Sub", "Deep", "Always"]);
    // The inner selector says 2, but it does not lie in this frame.
    expect(shown(2, 2)).toEqual(["Page", "Always"]);
    expect(shown(4)).toEqual(["Page", "Wide", "Always"]);
    expect(dbc.messages[0]?.signals.find((s) => s.name === "Deep")?.comment).toBe('says "deep"');
  });

  // Source: canmatrix (Debian's python3-canmatrix), which knows nested multiplexing.
  it("finds the same signals as canmatrix in every frame", () => {
    const path = join(folder, "rich.dbc");
    writeFileSync(path, RICH);
    const frames = Array.from({ length: 256 }, (_, i) => [i & 15, i >> 4, 7, 1, 2, 0, 0, 9]);
    const theirs = matrix(
      path,
      `
f = db.frame_by_name("Pages")
print(json.dumps([{k: float(v.phys_value) for k, v in f.decode(bytearray(d)).items()} for d in json.load(sys.stdin)]))`,
      frames,
    ) as Record<string, number>[];
    frames.forEach((data, i) => {
      expect([data, Object.fromEntries(decodeFrame(pages, Uint8Array.from(data)))]).toEqual([data, theirs[i]]);
    });
  });

  it("leaves out what it cannot place, and says so", () => {
    const of = (signals: string) => parseDbc(`BO_ 1 M: 8 X\n${signals}`).problems.map((p) => p.problem);
    expect(of(' SG_ A m1 : 0|8@1+ (1,0) [0|0] "" X\n')).toEqual([
      expect.stringMatching(/no signal of its message is marked M/),
    ]);
    expect(of(' SG_ A m1 : 0|8@1+ (1,0) [0|0] "" X\nSG_MUL_VAL_ 1 A B 1-1;\n')).toEqual([
      expect.stringMatching(/its selector B is missing/),
    ]);
    expect(
      of(
        ' SG_ A m1M : 0|8@1+ (1,0) [0|0] "" X\n SG_ B m1M : 8|8@1+ (1,0) [0|0] "" X\nSG_MUL_VAL_ 1 A B 1-1;\nSG_MUL_VAL_ 1 B A 1-1;\n',
      ),
    ).toEqual([expect.stringMatching(/in a circle/), expect.stringMatching(/in a circle/)]);
  });
});

/** What a script says about a description as canmatrix reads it. */
function matrix(path: string, script: string, input: unknown): unknown {
  const out = execFileSync(
    "/usr/bin/python3",
    [
      "-c",
      `import json, sys, contextlib, canmatrix.formats
with contextlib.redirect_stdout(sys.stderr): db = canmatrix.formats.loadp_flat(sys.argv[1])
${script}`,
      path,
    ],
    { input: JSON.stringify(input), encoding: "utf8", stdio: ["pipe", "pipe", "ignore"] },
  );
  return JSON.parse(out);
}

describe("writing", () => {
  const latin = Uint8Array.from([...RICH].map((c) => c.charCodeAt(0)));
  const signal = (more: Partial<DbcSignal>): DbcSignal => ({
    name: "Found",
    startBit: 0,
    length: 8,
    littleEndian: true,
    kind: "unsigned",
    factor: 1,
    offset: 0,
    minimum: 0,
    maximum: 255,
    unit: "",
    multiplex: null,
    values: new Map(),
    comment: "",
    ...more,
  });
  const message = (more: Partial<DbcMessage>): DbcMessage => ({
    id: 0x2c0,
    extended: false,
    name: "WheelKeys",
    length: 2,
    sender: "Body",
    signals: [],
    comment: "",
    ...more,
  });
  const additions = {
    messages: [
      message({
        comment: "found by cues",
        signals: [signal({ name: "Code", values: new Map([[1, 'volume "up"']]), comment: "from a log" })],
      }),
      message({
        id: 256,
        name: "Pages",
        length: 8,
        signals: [
          signal({
            name: "Extra",
            startBit: 39,
            length: 16,
            littleEndian: false,
            kind: "signed",
            factor: 0.1,
            offset: -5,
            unit: "deg",
            multiplex: {
              by: "Page",
              values: [
                [1, 1],
                [6, 7],
              ],
            },
          }),
        ],
      }),
      message({
        id: 0x1abc,
        extended: true,
        name: "Real",
        length: 8,
        sender: "",
        signals: [signal({ name: "Volts", length: 32, kind: "float32" })],
      }),
    ],
  };

  it("changes not a byte when there is nothing to add", () => {
    for (const text of [RICH, DBC, EMPTY_DBC, `\uFEFF${RICH.replaceAll("\n", "\r\n")}`, "", "no description"])
      expect(addToDbc(text, { messages: [] })).toBe(text);
  });

  it("keeps every line that was there, in its order, with its line ends", () => {
    for (const text of [RICH, RICH.replaceAll("\n", "\r\n"), RICH.trimEnd()]) {
      const written = addToDbc(text, additions);
      const was = text.split(/\r?\n/).filter((l) => l.trim() !== "");
      const is = written.split(/\r?\n/);
      let at = -1;
      for (const line of was) {
        at = is.indexOf(line, at + 1);
        expect([line, at >= 0]).toEqual([line, true]);
      }
      if (text.includes("\r\n")) expect(written.replaceAll("\r\n", "")).not.toContain("\n");
      expect(parseDbc(written).problems).toEqual([]);
    }
  });

  it("is read back as it was meant, and a signal that is there is not written twice", () => {
    const written = addToDbc(RICH, additions);
    const { messages } = parseDbc(written);
    expect(messages.find((m) => m.id === 0x2c0)).toMatchObject({
      name: "WheelKeys",
      comment: "found by cues",
      signals: [{ name: "Code", comment: "from a log" }],
    });
    expect(messages.find((m) => m.id === 256)?.signals.at(-1)).toEqual(additions.messages[1]?.signals[0]);
    expect(messages.find((m) => m.extended && m.id === 0x1abc)?.signals[0]?.kind).toBe("float32");
    expect(addToDbc(written, additions)).toBe(written);
    expect(parseDbc(addToDbc(EMPTY_DBC, additions)).messages).toHaveLength(3);
  });

  // Source: canmatrix must find the signals that we write.
  it("is read by canmatrix with the same signals", () => {
    for (const text of [RICH, EMPTY_DBC]) {
      const path = join(folder, "written.dbc");
      // Alone, the selector of the added page is missing.
      const add = text === RICH ? additions : { messages: additions.messages.filter((m) => m.id !== 256) };
      // It takes Windows-1252 for granted.
      writeFileSync(path, dbcBytes(addToDbc(text, add), latin));
      const theirs = matrix(
        path,
        `
print(json.dumps([[f.arbitration_id.id, f.name, f.size, [[s.name, s.get_startbit(bit_numbering=1), s.size, s.is_little_endian, s.is_signed, s.is_float, float(s.factor), float(s.offset), s.unit, {str(k): v for k, v in s.values.items()}, s.comment] for s in f.signals]] for f in db.frames]))`,
        null,
      ) as unknown[][];
      const ours = parseDbc(dbcText(readFileSync(path))).messages.map((m) => [
        m.id,
        m.name,
        m.length,
        m.signals.map((s) => [
          s.name,
          s.startBit,
          s.length,
          s.littleEndian,
          s.kind === "signed" || s.kind === "float32",
          s.kind === "float32",
          s.factor,
          s.offset,
          s.unit,
          Object.fromEntries([...s.values].map(([k, v]) => [String(k), v])),
          s.comment || null,
        ]),
      ]);
      const sorted = (list: unknown[][]) => [...list].sort((a, b) => String(a[1]).localeCompare(String(b[1])));
      expect(sorted(theirs)).toEqual(sorted(ours));
    }
  });

  it("keeps the encoding of the file as long as its signs allow it", () => {
    expect(dbcBytes(dbcText(latin), latin)).toEqual(latin);
    expect(dbcText(dbcBytes("“Ω”", latin))).toBe("“Ω”");
    const utf8 = new TextEncoder().encode(RICH);
    expect(dbcBytes(dbcText(utf8), utf8)).toEqual(utf8);
  });
});

describe("a large description", () => {
  it("of 50,000 lines is read whole, its bad lines named", () => {
    const text = Array.from({ length: 10_000 }, (_, i) =>
      [
        `BO_ ${2 ** 31 + i} M${i}: 8 Body`,
        ...[0, 1, 2].map((k) => ` SG_ S${k} : ${8 * k}|8@1+ (1,0) [0|255] "" Radio`),
        i % 1000 === 0 ? " SG_ bad" : "",
      ].join("\n"),
    ).join("\n");
    const { messages, problems } = parseDbc(text);
    expect([messages.length, problems.length]).toEqual([10_000, 10]);
    expect(problems[1]).toMatchObject({ line: 5005, code: "signal" });
  });
});

function never(): never {
  throw new Error("the fixture lacks what the test needs");
}
