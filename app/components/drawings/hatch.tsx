/** Slanted lines: what is off, or where something must be minded. */
export function Hatch({ id, size, colour = "var(--quiet)" }: { id: string; size: number; colour?: string }) {
  return (
    <defs>
      <pattern id={id} width={size} height={size} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width={size} height={size} fill="var(--paper)" />
        <path d={`M0 0V${size}`} stroke={colour} strokeWidth={size / 6} />
      </pattern>
    </defs>
  );
}
