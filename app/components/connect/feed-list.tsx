import { type Lit, TEST_STATES, TEST_WORDS } from "~/core/log/kinds/connect/feed-test";
import type { Candidate } from "~/core/power/feed";
import { EntryButton } from "../entry-form";
import { Mark, Notice, type Tone } from "../marks";

const VERDICTS: Record<Candidate["verdict"], { tone: Tone; word: string }> = {
  good: { tone: "good", word: "Fits" },
  possible: { tone: "none", word: "Test goes on" },
  unknown: { tone: "none", word: "Not tested" },
  unfit: { tone: "stop", word: "Unfit" },
};

/** Positions of the fuse panel, best first, each with its reasons and the next question for the tester. */
export function FeedList({
  candidates,
  tests,
  taken,
}: {
  candidates: Candidate[];
  tests: ReadonlyMap<string, Lit>;
  taken: string | null;
}) {
  const open = candidates.filter((c) => !c.forbidden);
  const never = candidates.filter((c) => c.forbidden);
  const first = taken === null ? open.find((c) => c.verdict !== "unfit") : undefined;
  return (
    <>
      <Notice tone="watch">
        <p>
          An LED tester, not a bulb: a bulb draws enough to disturb control units. Fuse map of the car in the hand; the
          maker's procedure and local law stand above this list.
        </p>
      </Notice>
      <ol className="mt-2">
        {open.map((c) => (
          <Position
            key={c.position.id}
            candidate={c}
            lit={tests.get(c.position.id) ?? {}}
            taken={taken === c.position.id}
            next={c === first}
          />
        ))}
      </ol>
      {never.length > 0 && (
        <p className="mt-3 text-quiet">
          Never touched: {never.map((c) => `${c.position.id} ${c.position.circuit}`).join(", ")}.
        </p>
      )}
    </>
  );
}

function Position({
  candidate: c,
  lit,
  taken,
  next,
}: {
  candidate: Candidate;
  lit: Lit;
  taken: boolean;
  next: boolean;
}) {
  const { position: p } = c;
  const verdict = VERDICTS[c.verdict];
  const answered = TEST_STATES.filter((s) => lit[s] !== undefined);
  return (
    <li className={`border-b border-rule py-3 ${next || taken ? "bg-raised px-3" : ""}`}>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <span className="num text-xl font-medium">{p.id}</span>
        <span className="min-w-0 flex-1 font-medium">
          {p.circuit}{" "}
          <span className="num text-sm font-normal text-quiet">
            {p.ratingA} A {p.family}
          </span>
        </span>
        {taken ? <Mark tone="good">Taken</Mark> : <Mark tone={verdict.tone}>{verdict.word}</Mark>}
      </div>
      <p className="text-sm text-quiet">{c.reasons.join(" ")}</p>
      {answered.length > 0 && (
        <p className="text-sm">{answered.map((s) => `${TEST_WORDS[s]}: ${lit[s] ? "lit" : "dark"}`).join("; ")}</p>
      )}
      {c.ask && !taken && (next || answered.length > 0) && (
        <div className="mt-2 flex flex-wrap items-center gap-2">
          <span className="basis-56 flex-1">{TEST_WORDS[c.ask]}: the tester is</span>
          <span className="flex gap-2">
            {([true, false] as const).map((isLit) => (
              <EntryButton
                key={`${isLit}`}
                body={{ kind: "connect.feedTest", data: { position: p.id, state: c.ask ?? "on", lit: isLit } }}
                label={`${p.id}, ${TEST_WORDS[c.ask ?? "on"]}: ${isLit ? "Lit" : "Dark"}`}
              >
                {isLit ? "Lit" : "Dark"}
              </EntryButton>
            ))}
          </span>
        </div>
      )}
      {c.verdict === "good" && (
        <div className="mt-2 flex flex-wrap items-center gap-3">
          <EntryButton
            look={taken ? "quiet" : "plain"}
            body={{ kind: "connect.feed", data: { position: taken ? null : p.id } }}
            label={taken ? `Give it up again: ${p.id}` : `Take ${p.id}`}
          >
            {taken ? "Give it up again" : `Take ${p.id}`}
          </EntryButton>
          {c.tap && (
            <p className="min-w-0 flex-1 basis-64">
              Tap, {c.tap.family}: <span className="num">{c.tap.originalA} A</span> {c.tap.colours.original} stays,{" "}
              <span className="num">{c.tap.addedA} A</span> {c.tap.colours.added} for the kit. {c.tap.say}
            </p>
          )}
        </div>
      )}
    </li>
  );
}
