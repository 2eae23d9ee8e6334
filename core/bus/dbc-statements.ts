/** The text of a bus description, statement by statement; nothing of it is lost. */
/** The text of a description: UTF-8, else as older tools write it, Windows-1252. */
export function dbcText(bytes: Uint8Array): string {
  try {
    return new TextDecoder("utf-8", { fatal: true, ignoreBOM: true }).decode(bytes);
  } catch {
    return new TextDecoder("windows-1252").decode(bytes);
  }
}

export interface Statement {
  /** 1-based. */
  line: number;
  /** Index of the line after it, 0-based. */
  next: number;
  text: string;
  /** Its string is never closed. */
  open: boolean;
}

/**
 * Non-empty lines with their number; a string that runs over several lines is joined. A line whose string is never closed
 * stands alone, so that it swallows nothing.
 */
export function* statements(text: string): Generator<Statement> {
  const lines = text.replace(/^\uFEFF/, "").split(/\r?\n/);
  const odd = lines.map(leavesOpen);
  // The next line that closes a string is looked for once.
  const closing = new Int32Array(lines.length + 1).fill(lines.length);
  for (let i = lines.length - 1; i >= 0; i--) closing[i] = odd[i] ? i : (closing[i + 1] as number);
  for (let i = 0; i < lines.length; i++) {
    const start = i;
    const end = odd[i] ? (closing[i + 1] as number) : i;
    const open = end >= lines.length;
    const whole = (open ? (lines[i] ?? "") : lines.slice(i, end + 1).join("\n")).trim();
    if (!open) i = end;
    if (whole) yield { line: start + 1, next: i + 1, text: whole, open };
  }
}

/** True for a line with an odd number of quotation marks; an escaped one does not count unless it ends the statement. */
function leavesOpen(line: string): boolean {
  if (!line.includes('"')) return false;
  const plain = line.replace(/\\"\s*;\s*$/, '";').replace(/\\"/g, "");
  return (plain.match(/"/g)?.length ?? 0) % 2 === 1;
}
