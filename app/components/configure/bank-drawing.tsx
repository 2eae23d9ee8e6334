/** A bank of small switches as one sees it: the lever up is on, down is off, with the word under it. */
export function BankDrawing({ values, on, title }: { values: string[]; on: string; title: string }) {
  const w = 44;
  return (
    <svg
      viewBox={`0 0 ${values.length * w + 16} 132`}
      className="w-full"
      style={{ maxWidth: `${values.length * 3.5}rem` }}
      role="img"
      aria-label={`${title}: ${values.map((v, i) => `${i + 1} ${v}`).join(", ")}`}
    >
      <rect x="1" y="22" width={values.length * w + 14} height="82" rx="4" fill="var(--ink)" />
      {values.map((value, i) => {
        const x = 8 + i * w;
        const up = value === on;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: the place in the bank is the identity of a switch
          <g key={i}>
            <text
              x={x + w / 2}
              y="15"
              textAnchor="middle"
              fontSize="15"
              fontWeight="600"
              fill="var(--ink)"
              fontFamily="var(--font-mono)"
            >
              {i + 1}
            </text>
            <rect x={x + 9} y="32" width={w - 18} height="62" rx="2" fill="var(--paper)" />
            <rect x={x + 12} y={up ? 35 : 63} width={w - 24} height="28" rx="2" fill="var(--ink)" />
            <text
              x={x + w / 2}
              y="123"
              textAnchor="middle"
              fontSize="14"
              fill="var(--ink)"
              fontWeight={up ? 600 : 400}
              fontFamily="var(--font-mono)"
            >
              {up ? "ON" : "off"}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
