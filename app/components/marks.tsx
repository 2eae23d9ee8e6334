import { Check, CircleDashed, CircleHelp, Minus, OctagonAlert, Plus, TriangleAlert, X } from "lucide-react";
import type { ReactNode } from "react";

export type Tone = "good" | "watch" | "stop" | "none";

const TONES: Record<Tone, string> = {
  good: "text-good bg-good-ground",
  watch: "text-watch bg-watch-ground",
  stop: "text-stop bg-stop-ground",
  none: "text-quiet bg-transparent border border-rule",
};
const ICONS: Record<Tone, ReactNode> = {
  good: <Check size={16} aria-hidden="true" />,
  watch: <TriangleAlert size={16} aria-hidden="true" />,
  stop: <OctagonAlert size={16} aria-hidden="true" />,
  none: null,
};

/** A state: its icon, its word, its colour, never colour alone. */
export function Mark({ tone, icon, children }: { tone: Tone; icon?: ReactNode; children: ReactNode }) {
  return (
    <span
      className={`inline-flex items-center gap-1.5 whitespace-nowrap rounded-[3px] px-2 py-0.5 text-sm font-medium ${TONES[tone]}`}
    >
      {icon ?? ICONS[tone]}
      {children}
    </span>
  );
}

/** A message with its tone over the whole width. */
export function Notice({
  tone,
  title,
  children,
  live = false,
}: {
  tone: Tone;
  title?: string;
  children?: ReactNode;
  live?: boolean;
}) {
  return (
    <div className={`flex gap-3 rounded-[3px] px-3 py-2.5 ${TONES[tone]}`} role={live ? "status" : undefined}>
      <span className="mt-1 shrink-0">{ICONS[tone]}</span>
      <div className="text-ink">
        {title && <p className="font-medium">{title}</p>}
        {children}
      </div>
    </div>
  );
}

/** How a test ended, as people say it. */
export function ResultMark({ result }: { result: string | undefined }) {
  switch (result) {
    case "pass":
      return <Mark tone="good">Works</Mark>;
    case "nothing":
    case "fail":
      return (
        <Mark tone="stop" icon={<X size={16} aria-hidden="true" />}>
          {result === "fail" ? "Fails" : "Nothing"}
        </Mark>
      );
    case "wrong":
      return <Mark tone="stop">Wrong</Mark>;
    case "late":
      return <Mark tone="watch">Too late</Mark>;
    case "impossible":
    case "absent":
      return (
        <Mark tone="none" icon={<CircleHelp size={16} aria-hidden="true" />}>
          {result === "absent" ? "Not present" : "Not possible"}
        </Mark>
      );
    default:
      return (
        <Mark tone="none" icon={<CircleDashed size={16} aria-hidden="true" />}>
          Not tried
        </Mark>
      );
  }
}

const VERDICTS = {
  gained: { tone: "good", word: "Gained", icon: <Plus size={16} aria-hidden="true" /> },
  kept: { tone: "none", word: "Kept", icon: <Check size={16} aria-hidden="true" /> },
  changed: { tone: "watch", word: "Changed", icon: <TriangleAlert size={16} aria-hidden="true" /> },
  lost: { tone: "stop", word: "Lost", icon: <Minus size={16} aria-hidden="true" /> },
  faulty: { tone: "watch", word: "Failed before", icon: <TriangleAlert size={16} aria-hidden="true" /> },
  never: { tone: "watch", word: "Not available", icon: <X size={16} aria-hidden="true" /> },
} as const;

/** Gained, kept, changed or lost. */
export function VerdictMark({ verdict }: { verdict: keyof typeof VERDICTS }) {
  const v = VERDICTS[verdict];
  return (
    <Mark tone={v.tone} icon={v.icon}>
      {v.word}
    </Mark>
  );
}
