import { isProtection, type Protection } from "~/core/bus/protection";

const BIT = 5;
const BYTE_GAP = 4;
const HEIGHT = 16;
/** Bar of a bit that never, seldom, often changes. */
const BARS = [2, 8, 16] as const;

/** The bits of a message in the order of their bytes, the highest of each byte first: how often each changes. */
export function BitStrip({ bits, protections }: { bits: readonly number[]; protections: readonly Protection[] }) {
  const bytes = bits.length / 8;
  const width = bytes * (8 * BIT + BYTE_GAP);
  const counted = (bit: number) => isProtection(protections, bit);
  // One path for all bits of a kind: a table has thousands of them.
  const bars = (of: (bit: number, level: number) => boolean) =>
    bits
      .map((level, bit) => {
        if (!of(bit, level)) return "";
        const bar = BARS[level as 0 | 1 | 2] - 0.5;
        const x = (bit >> 3) * (8 * BIT + BYTE_GAP) + (7 - (bit & 7)) * BIT + 0.5;
        return `M${x} ${HEIGHT}v${-bar}h${BIT - 1}v${bar}z`;
      })
      .join("");
  return (
    <svg
      width={width}
      height={HEIGHT}
      viewBox={`0 0 ${width} ${HEIGHT}`}
      role="img"
      aria-label={inWords(bits, protections)}
      className="block"
    >
      <path d={bars((bit, level) => level === 0 && !counted(bit))} fill="var(--rule)" />
      <path d={bars((bit, level) => level > 0 && !counted(bit))} fill="var(--ink)" />
      <path d={bars((bit) => counted(bit))} fill="none" stroke="var(--quiet)" />
    </svg>
  );
}

function inWords(bits: readonly number[], protections: readonly Protection[]): string {
  const changing = bits.filter((b) => b > 0).length;
  return [`${changing} of ${bits.length} bits change`, ...protections.map(protectionWords)].join("; ");
}

/** “counter 0 to 15 in byte 1”, “checksum in byte 7: sum of the other bytes”. Bytes count from 0. */
export function protectionWords(p: Protection): string {
  if (p.kind === "checksum") return `checksum in byte ${p.byte}: ${p.rule}`;
  const missed = p.missed > 0 ? `, ${p.missed} frames missing` : "";
  return `counter ${p.step === 1 ? `0 to ${p.top}` : `${p.top} to 0`} in byte ${p.startBit >> 3}${missed}`;
}

/** How the strip is read. */
export function BitLegend() {
  return (
    <p className="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm text-quiet">
      <span>Bits, byte 0 first:</span>
      {(["never changes", "seldom", "often"] as const).map((word, level) => (
        <span key={word} className="inline-flex items-center gap-1.5">
          <svg width={6} height={HEIGHT} aria-hidden="true">
            <rect
              x={1}
              y={HEIGHT - (BARS[level] ?? 0)}
              width={BIT - 1}
              height={BARS[level]}
              fill={level === 0 ? "var(--rule)" : "var(--ink)"}
            />
          </svg>
          {word}
        </span>
      ))}
      <span className="inline-flex items-center gap-1.5">
        <svg width={6} height={HEIGHT} aria-hidden="true">
          <rect x={1} y={0.5} width={BIT - 1} height={HEIGHT - 1} fill="none" stroke="var(--quiet)" />
        </svg>
        counter or checksum
      </span>
    </p>
  );
}
