import { Check, CircleDashed, CircleHelp, Minus, OctagonAlert, Plus, TriangleAlert, X } from "lucide";
import type { ReactNode } from "react";
import { Icon } from "./icon";

export type Tone = "good" | "watch" | "stop" | "none";

const TONES: Record<Tone, string> = {
  good: "text-good bg-good-ground",
  watch: "text-watch bg-watch-ground",
  stop: "text-stop bg-stop-ground",
  none: "text-quiet bg-transparent border border-rule",
};
const ICONS: Record<Tone, ReactNode> = {
  good: <Icon of={Check} size={16} />,
  watch: <Icon of={TriangleAlert} size={16} />,
  stop: <Icon of={OctagonAlert} size={16} />,
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
        <Mark tone="stop" icon={<Icon of={X} size={16} />}>
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
        <Mark tone="none" icon={<Icon of={CircleHelp} size={16} />}>
          {result === "absent" ? "Not present" : "Not possible"}
        </Mark>
      );
    default:
      return (
        <Mark tone="none" icon={<Icon of={CircleDashed} size={16} />}>
          Not tried
        </Mark>
      );
  }
}

const VERDICTS = {
  gained: { tone: "good", word: "Gained", icon: <Icon of={Plus} size={16} /> },
  kept: { tone: "none", word: "Kept", icon: <Icon of={Check} size={16} /> },
  changed: { tone: "watch", word: "Changed", icon: <Icon of={TriangleAlert} size={16} /> },
  lost: { tone: "stop", word: "Lost", icon: <Icon of={Minus} size={16} /> },
  faulty: { tone: "watch", word: "Failed before", icon: <Icon of={TriangleAlert} size={16} /> },
  never: { tone: "watch", word: "Not available", icon: <Icon of={X} size={16} /> },
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
