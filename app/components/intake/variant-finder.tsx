import { ArrowLeft, Eye, RadioReceiver } from "lucide";
import { Link } from "react-router";
import type { FinderView } from "~/core/views/finder";
import { Focus } from "../bench/focus";
import { buttonLook } from "../controls";
import { RadioLook } from "../drawings/dash-view";
import { EntryButton } from "../entry-form";
import { Icon } from "../icon";
import { Mark, Notice } from "../marks";

/** Which radio is it? One question after the other, the one that tells most for its effort first. */
export function VariantFinder({
  found,
  finder: view,
}: {
  found: { title: string; identifyingFeatures: string[] } | null;
  /** Null while the radio is known and nobody asks again. */
  finder: FinderView | null;
}) {
  if (!view)
    return (
      found && (
        <Focus kicker="Radio: found" title={found.title}>
          <ul className="mt-1 list-disc pl-5 text-quiet">
            {found.identifyingFeatures.map((t) => (
              <li key={t}>{t}</li>
            ))}
          </ul>
          <p className="mt-3">
            <Link to="?at=variant&again=1" preventScrollReset className={buttonLook("plain")}>
              Find it again
            </Link>
          </p>
        </Focus>
      )
    );
  const { state } = view;
  const left = state.remaining.length;
  return (
    <Focus
      title="Which radio is it?"
      kicker={left === 1 ? "One remains" : `${left} of ${Object.keys(view.versions).length} remain`}
    >
      <div className="grid gap-x-8 gap-y-5 2xl:grid-cols-[minmax(0,1fr)_20rem]">
        <div>
          {state.contradiction && (
            <Notice tone="stop" title="No radio of the library gives these answers together" live>
              <p>One look may have been wrong. Nearest to the other answers:</p>
              <ul className="mt-2 space-y-2">
                {state.nearest.map((near) => (
                  <li key={near.id}>
                    <p>
                      <span className="font-medium">{near.title}</span>, but for:{" "}
                      {near.against.map((q) => q.ask).join(" ")}
                    </p>
                    <ThisOne view={view} id={near.id} look="plain" label="It is this one" />
                  </li>
                ))}
              </ul>
              <p className="mt-2">Or take an answer back below, or enter the radio in the library.</p>
            </Notice>
          )}
          {left === 1 && <Verdict view={view} />}
          {state.next && <Question view={view} />}
          {left > 1 && !state.next && <RadioOut view={view} />}
          <Answered view={view} />
        </div>
        <Remaining view={view} />
      </div>
    </Focus>
  );
}

function address(view: FinderView, answers: FinderView["answers"]): string {
  const params = new URLSearchParams({ at: "variant", ...(view.again ? { again: "1" } : {}) });
  for (const [question, answer] of Object.entries(answers)) params.append("a", `${question}:${answer ?? ""}`);
  return `?${params}`;
}

function Question({ view }: { view: FinderView }) {
  const question = view.state.next?.question;
  if (!question) return null;
  const to = (answer: string | null) => address(view, { ...view.answers, [question.id]: answer });
  return (
    <div className="border-l-4 border-accent bg-raised px-4 py-4">
      <h3 className="text-xl font-semibold">{question.ask}</h3>
      <p className="mt-1 flex items-start gap-2 text-quiet">
        <Icon of={Eye} size={20} className="mt-0.5 shrink-0" /> {question.where}
      </p>
      <div className="mt-4 flex flex-wrap gap-2">
        {question.answers.map((a) => (
          <Link
            key={a.id}
            to={to(a.id)}
            preventScrollReset
            className={`${buttonLook("plain")} min-h-14 text-lg font-medium`}
          >
            {a.label}
          </Link>
        ))}
        <Link to={to(null)} preventScrollReset className={`${buttonLook("quiet")} min-h-14`}>
          Cannot tell
        </Link>
      </div>
      <details className="mt-2 text-sm text-quiet">
        <summary className="min-h-8 cursor-pointer">Why this question?</summary>
        It tells most for its effort: <span className="num">{view.state.next?.gainBits.toFixed(2)}</span> bit of
        expected information about the radio (entropy before less mean entropy after, Quinlan 1986) in about{" "}
        <span className="num">{question.effortS}</span> s.
      </details>
    </div>
  );
}

function Verdict({ view }: { view: FinderView }) {
  const [one] = view.state.remaining;
  if (!one) return null;
  return (
    <div className="border-l-4 border-good bg-raised px-4 py-4">
      <Mark tone="good">Only one is left</Mark>
      <h3 className="mt-2 text-xl font-semibold">{one.title}</h3>
      {view.looks[one.id] && <RadioLook shapes={view.looks[one.id] ?? []} title={one.title} />}
      <ul className="mt-1 list-disc pl-5 text-quiet">
        {view.identifyingFeatures[one.id]?.map((t) => (
          <li key={t}>{t}</li>
        ))}
      </ul>
      <div className="mt-4">
        <ThisOne view={view} id={one.id} look="next" label="This is the radio" />
      </div>
    </div>
  );
}

function ThisOne({ view, id, look, label }: { view: FinderView; id: string; look: "next" | "plain"; label: string }) {
  return (
    <EntryButton
      look={look}
      body={{
        kind: "intake.variant",
        data: { variant: { slug: id, version: view.versions[id] ?? 1 }, answers: { ...view.answers } },
      }}
    >
      <Icon of={RadioReceiver} size={18} /> {label}
    </EntryButton>
  );
}

/** Nothing in the driver's seat separates the rest. */
function RadioOut({ view }: { view: FinderView }) {
  const { later } = view.state;
  return (
    <Notice tone="watch" title="From the driver's seat these cannot be told apart">
      {later.length > 0 ? (
        <>
          <p>Look when the radio is out, then answer here:</p>
          <ul className="mt-2 space-y-3">
            {later.map(({ question }) => (
              <li key={question.id}>
                <span className="block font-medium">{question.ask}</span>
                <span className="block text-quiet">{question.where}</span>
                <span className="mt-2 flex flex-wrap gap-2">
                  {question.answers.map((a) => (
                    <Link
                      key={a.id}
                      to={address(view, { ...view.answers, [question.id]: a.id })}
                      preventScrollReset
                      className={buttonLook("plain")}
                    >
                      {a.label}
                    </Link>
                  ))}
                </span>
              </li>
            ))}
          </ul>
        </>
      ) : (
        <p>The library knows no question that separates them. Choose the one you see, or add a question to the car.</p>
      )}
    </Notice>
  );
}

function Answered({ view }: { view: FinderView }) {
  if (view.answered.length === 0) return null;
  const without = (id: string) => Object.fromEntries(Object.entries(view.answers).filter(([key]) => key !== id));
  return (
    <ul className="mt-4 space-y-1" aria-label="Answers so far">
      {view.answered.map(({ question, answer }) => (
        <li key={question.id} className="flex flex-wrap items-center gap-x-3">
          <span className="text-quiet">{question.ask}</span>
          <span className="font-medium">{question.answers.find((a) => a.id === answer)?.label ?? "Cannot tell"}</span>
          <Link
            to={address(view, without(question.id))}
            preventScrollReset
            className={buttonLook("quiet")}
            aria-label={`Undo: ${question.ask}`}
          >
            <Icon of={ArrowLeft} size={16} /> Undo
          </Link>
        </li>
      ))}
    </ul>
  );
}

/** What is left, with its share, and a way to choose by hand. */
function Remaining({ view }: { view: FinderView }) {
  const { remaining } = view.state;
  if (Object.keys(view.versions).length === 0)
    return (
      <Notice tone="watch" title="No radio of this car is in the library">
        <p>
          Enter one in the{" "}
          <Link to="/library" className="underline">
            library
          </Link>
          ; it takes a few minutes.
        </p>
      </Notice>
    );
  return (
    <ul className="grid gap-x-6 gap-y-4 sm:grid-cols-2 2xl:grid-cols-1" aria-label="Radios that remain">
      {remaining.map((r) => (
        <li key={r.id}>
          <span className="flex items-baseline justify-between gap-3">
            <span className="font-medium leading-tight">{r.title}</span>
            <span className="num whitespace-nowrap">{Math.round(r.share * 100)} %</span>
          </span>
          <span aria-hidden="true" className="mt-1 block h-1.5 bg-rule">
            <span className="block h-full bg-ink" style={{ width: `${Math.max(2, r.share * 100)}%` }} />
          </span>
          {view.looks[r.id] && (
            <div className="mt-2">
              <RadioLook shapes={view.looks[r.id] ?? []} title={r.title} />
            </div>
          )}
          {remaining.length > 1 && (
            <details className="mt-1">
              <summary className="min-h-8 cursor-pointer text-sm text-quiet">How it looks</summary>
              <ul className="mb-2 list-disc pl-5 text-sm text-quiet">
                {view.identifyingFeatures[r.id]?.map((t) => (
                  <li key={t}>{t}</li>
                ))}
              </ul>
              <ThisOne view={view} id={r.id} look="plain" label="It is this one" />
            </details>
          )}
        </li>
      ))}
    </ul>
  );
}
