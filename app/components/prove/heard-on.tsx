import { Volume2, VolumeX } from "lucide";
import { useState } from "react";
import type { SpeakerPlan } from "~/core/drawing/plan";
import type { Command } from "~/core/log/entry";
import type { InsteadId } from "~/core/model/sight";
import { EntryButton } from "../entry-form";
import { Icon } from "../icon";

interface Props {
  test: { id: string; name: string; label: string };
  /** Loudspeakers that the test is about. */
  heard: readonly { contact: string; name: string }[];
  plan: SpeakerPlan;
  /** Nothing else on the page is the one next thing. */
  isNext: boolean;
}

function placesOf(heard: Props["heard"], plan: SpeakerPlan) {
  return heard.flatMap((h) => {
    const at = plan.speakers.find((s) => s.contact === h.contact)?.at;
    return at ? [{ ...h, at }] : [];
  });
}

/** True when every loudspeaker of a test has its place on the drawing. */
export function areDrawn(heard: Props["heard"], plan: SpeakerPlan): boolean {
  return placesOf(heard, plan).length === heard.length;
}

/** The loudspeakers of a test on the car from above: those that sound are tapped, and the answer follows from them. */
export function HeardOn({ test, heard, plan, isNext }: Props) {
  const [sounding, setSounding] = useState<ReadonlySet<string>>(new Set());
  const places = placesOf(heard, plan);
  const toggle = (contact: string) => {
    const next = new Set(sounding);
    if (!next.delete(contact)) next.add(contact);
    setSounding(next);
  };
  const silent = heard.filter((h) => !sounding.has(h.contact)).map((h) => h.name.replace(/ loudspeaker$/, ""));
  const right = [...sounding];
  const body = (seen?: InsteadId): Command => ({
    kind: "prove.result",
    data: { test: test.id, note: "", ...(seen ? { answer: "wrong", seen, right } : { answer: "pass" }) },
  });
  const name = `${test.name}, ${test.label}`;
  return (
    <div className="mt-4 w-full max-w-sm">
      <p className="font-medium">Not from all four: tap each that plays at its own corner</p>
      <div className="relative my-2">
        <svg viewBox={`0 0 ${plan.width} ${plan.height}`} className="w-full" aria-hidden="true">
          <polygon points={plan.body} fill="var(--raised)" stroke="var(--ink)" strokeWidth="20" />
          <text x={plan.width * 0.04} y={plan.height / 2 + 60} fontSize="170" fill="var(--quiet)">
            front
          </text>
        </svg>
        {places.map(({ contact, name, at: [x, y] }) => {
          const on = sounding.has(contact);
          return (
            <button
              key={contact}
              type="button"
              aria-pressed={on}
              aria-label={`${name}: ${on ? "sounds" : "silent"}`}
              onClick={() => toggle(contact)}
              className={`absolute grid size-11 -translate-x-1/2 -translate-y-1/2 place-items-center rounded-full border-2 border-ink ${on ? "bg-ink text-paper" : "bg-paper text-quiet"}`}
              style={{ left: `${(100 * x) / plan.width}%`, top: `${(100 * y) / plan.height}%` }}
            >
              {on ? <Icon of={Volume2} size={20} /> : <Icon of={VolumeX} size={20} />}
            </button>
          );
        })}
      </div>
      {sounding.size > 0 && silent.length === 0 && (
        <EntryButton look={isNext ? "next" : "plain"} body={body()} label={`${name}: all sound`}>
          All sound: works
        </EntryButton>
      )}
      {sounding.size > 0 && silent.length > 0 && (
        <div className="flex flex-wrap gap-2">
          <EntryButton body={body("someSpeakers")} label={`${name}: silent: ${silent.join(", ")}`}>
            {silent.join(", ")}: silent
          </EntryButton>
          <EntryButton body={body("otherSpeakers")} label={`${name}: from other loudspeakers: ${silent.join(", ")}`}>
            {silent.join(", ")}: plays elsewhere
          </EntryButton>
        </div>
      )}
    </div>
  );
}
