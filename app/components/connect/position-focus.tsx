import { type Lit, TEST_STATES, TEST_WORDS } from "~/core/log/kinds/connect/feed-test";
import type { Candidate } from "~/core/power/feed";
import { Focus } from "../bench/focus";
import { EntryButton } from "../entry-form";
import { Mark, type Tone } from "../marks";

export const FEED_VERDICTS: Record<Candidate["verdict"], { tone: Tone; word: string }> = {
  good: { tone: "good", word: "Fits" },
  possible: { tone: "none", word: "Test goes on" },
  unknown: { tone: "none", word: "Not tested" },
  unfit: { tone: "stop", word: "Unfit" },
};

/** One position of the fuse panel: its reasons, the next question for the tester, and the button that takes it. */
export function PositionFocus({ candidate: c, lit, taken }: { candidate: Candidate; lit: Lit; taken: boolean }) {
  const { position: p } = c;
  const verdict = FEED_VERDICTS[c.verdict];
  const answered = TEST_STATES.filter((s) => lit[s] !== undefined);
  return (
    <Focus
      kicker={
        <span className="num">
          {p.ratingA} A {p.family}
        </span>
      }
      marks={taken ? <Mark tone="good">Taken</Mark> : <Mark tone={verdict.tone}>{verdict.word}</Mark>}
      title={`${p.id} ${p.circuit}`}
      actions={
        c.verdict === "good" ? (
          <EntryButton
            look={taken ? "plain" : "next"}
            body={{ kind: "connect.feed", data: { position: taken ? null : p.id } }}
            label={taken ? `Give it up again: ${p.id}` : `Take ${p.id}`}
            shortcut="Space"
          >
            {taken ? "Give it up again" : `Take ${p.id}`}
          </EntryButton>
        ) : (
          c.ask && (
            <>
              <p className="w-full text-lg font-medium">{TEST_WORDS[c.ask]}: the tester is</p>
              {([true, false] as const).map((isLit, i) => (
                <EntryButton
                  key={`${isLit}`}
                  body={{ kind: "connect.feedTest", data: { position: p.id, state: c.ask ?? "on", lit: isLit } }}
                  label={`${p.id}, ${TEST_WORDS[c.ask ?? "on"]}: ${isLit ? "Lit" : "Dark"}`}
                  shortcut={String(i + 1)}
                  className="min-h-16! min-w-28 text-lg"
                >
                  {isLit ? "Lit" : "Dark"}
                </EntryButton>
              ))}
            </>
          )
        )
      }
    >
      <p>{c.reasons.join(" ")}</p>
      {answered.length > 0 && (
        <ul className="text-quiet">
          {answered.map((s) => (
            <li key={s}>
              {TEST_WORDS[s]}: {lit[s] ? "lit" : "dark"}
            </li>
          ))}
        </ul>
      )}
      {c.verdict === "good" && c.tap && (
        <p>
          Tap, {c.tap.family}: <span className="num">{c.tap.originalA} A</span> {c.tap.colours.original} stays,{" "}
          <span className="num">{c.tap.addedA} A</span> {c.tap.colours.added} for the kit. {c.tap.say}
        </p>
      )}
      <p className="text-watch">
        An LED tester, not a bulb: a bulb draws enough to disturb control units. Fuse map of the car in the hand; the
        maker's procedure and local law stand above this list.
      </p>
    </Focus>
  );
}
