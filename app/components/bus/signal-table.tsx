import { ScrollX } from "~/app/components/controls";
import type { MappedSignal } from "~/core/bus/bus-map";
import { signalBits } from "~/core/bus/dbc-messages";
import { idText } from "~/core/bus/identifier";

/** What is shown of a signal: where it lies in its message, how it reads, where it is known from. */
type Shown = Omit<MappedSignal, "page" | "version">;

export function SignalTable({ signals }: { signals: readonly Shown[] }) {
  return (
    <ScrollX label="Signals">
      <table className="w-full min-w-[52rem]">
        <thead>
          <tr className="border-b border-strong text-left text-sm">
            {["Signal", "Message", "Bits", "Reads as", "Known from"].map((title) => (
              <th key={title} scope="col" className="py-2 pr-4 font-medium">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {signals.map((s) => (
            <tr key={`${s.message} ${s.signal}`} className="border-b border-rule align-top">
              <th scope="row" className="py-2 pr-4 text-left font-medium">
                {s.signal}
              </th>
              <td className="py-2 pr-4">
                {s.message} <span className="num text-sm text-quiet">{idText(s.id, s.extended)}</span>
              </td>
              <td className="py-2 pr-4">
                <Bits signal={s} />
              </td>
              <td className="py-2 pr-4">{reading(s)}</td>
              <td className="py-2 text-sm text-quiet">{s.origin}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </ScrollX>
  );
}

function reading({ values, factor, offset, unit }: Shown): string {
  if (values.length > 0)
    return values
      .slice(0, 8)
      .map((v) => `${v.raw} ${v.name}`)
      .join(", ");
  const scale = factor === 1 ? "" : ` × ${factor}`;
  const shift = offset === 0 ? "" : ` ${offset < 0 ? "−" : "+"} ${Math.abs(offset)}`;
  return `raw${scale}${shift}${unit ? ` ${unit}` : ""}`;
}

const CELL = 5;

/** The bits of a message, byte by byte with the highest bit first; those of the signal are filled. */
function Bits({ signal }: { signal: Shown }) {
  const own = new Set(signalBits(signal));
  const bytes = Array.from({ length: signal.bytes }, (_, i) => i);
  const width = signal.bytes * (8 * CELL + 4);
  const first = Math.min(...own);
  return (
    <svg
      width={width}
      height={12}
      viewBox={`0 0 ${width} 12`}
      role="img"
      aria-label={`byte ${first >> 3}, ${own.size === 1 ? `bit ${first & 7}` : `${own.size} bits`}${signal.littleEndian ? "" : ", high byte first"}`}
    >
      {bytes.flatMap((b) =>
        [7, 6, 5, 4, 3, 2, 1, 0].map((bit, i) => (
          <rect
            key={8 * b + bit}
            x={b * (8 * CELL + 4) + i * CELL + 0.5}
            y={1.5}
            width={CELL - 1}
            height={9}
            fill={own.has(8 * b + bit) ? "var(--ink)" : "none"}
            stroke="var(--rule)"
            strokeWidth={0.8}
          />
        )),
      )}
    </svg>
  );
}
