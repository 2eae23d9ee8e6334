import { MAX_PROBLEMS, type ParsedLog } from "./candump";
import { FrameBuilder } from "./frames";

/**
 * Reads the ASC text log: `0.002367 1  390x  Rx   d 8 17 00 14 00 C0 00 08 00`. Header, comment and event lines are
 * passed over; hexadecimal base only. Channels become `can0`, `can1`... for 1, 2...
 */
export function parseAsc(text: string): ParsedLog {
  const builder = new FrameBuilder();
  const channels: string[] = [];
  const problems: ParsedLog["problems"] = [];
  let badLines = 0;
  const lines = text.split(/\r?\n/);
  lines.forEach((line, i) => {
    const fields = line.trim().split(/\s+/);
    if (!/^\d+(\.\d+)?$/.test(fields[0] ?? "") || !/^\d+$/.test(fields[1] ?? "") || !/^(Rx|Tx)$/.test(fields[3] ?? ""))
      return;
    const problem = addFrame(builder, channels, fields);
    if (!problem) return;
    badLines++;
    if (problems.length < MAX_PROBLEMS) problems.push({ line: i + 1, code: "data", problem, text: line.slice(0, 80) });
  });
  return { frames: builder.finish(channels), problems, badLines, lines: lines.length };
}

function addFrame(builder: FrameBuilder, channels: string[], fields: readonly string[]): string | null {
  const [time, channel, identifier = "", , type, length, ...bytes] = fields;
  if (type !== "d") return "only data frames are read";
  const extended = /x$/i.test(identifier);
  // Without the mark: “0x” would be read as the prefix of a hexadecimal number.
  const id = Number.parseInt(identifier.replace(/x$/i, ""), 16);
  const count = Number.parseInt(length ?? "", 16);
  if (!Number.isFinite(id)) return "the identifier is not hexadecimal";
  if (!(count >= 0 && count <= 8)) return "a frame has at most 8 data bytes";
  const values = bytes.slice(0, count).map((b) => (/^[0-9a-f]{2}$/i.test(b) ? Number.parseInt(b, 16) : -1));
  if (values.length < count || values.includes(-1)) return `${count} data bytes of two hexadecimal digits are expected`;
  const name = `can${Number(channel) - 1}`;
  let index = channels.indexOf(name);
  if (index < 0) index = channels.push(name) - 1;
  const f = builder.row();
  f.timeS[f.count] = Number(time);
  f.id[f.count] = id;
  f.extended[f.count] = extended ? 1 : 0;
  f.length[f.count] = count;
  f.channel[f.count] = index;
  f.data.set(values, 8 * f.count);
  builder.next();
  return null;
}
