/** How trade words for wire colours look; a word that is not here is drawn hatched and still written out. */
const LOOKS: Readonly<Record<string, string>> = {
  red: "#c8281e",
  black: "#20242a",
  yellow: "#e8c51b",
  green: "#2e8b3d",
  blue: "#2457c5",
  white: "#fbfbf7",
  brown: "#7a4a21",
  orange: "#e8791b",
  violet: "#7b3fb0",
  purple: "#7b3fb0",
  grey: "#8a8f96",
  pink: "#ef8fb0",
};

/** How the colour of a wire is drawn. */
export function wireColour(word: string): string {
  return LOOKS[word.toLowerCase()] ?? "var(--rule)";
}

/** A piece of wire as it looks: base colour and tracer. The words always stand beside it. */
export function WireLook({ base, tracer = "" }: { base: string; tracer?: string }) {
  return (
    <svg viewBox="0 0 120 16" className="h-4 w-30" aria-hidden="true">
      <rect x="1" y="3" width="118" height="10" rx="5" fill={wireColour(base)} stroke="var(--ink)" />
      {tracer && <rect x="1.5" y="6.5" width="117" height="3" fill={wireColour(tracer)} />}
    </svg>
  );
}
