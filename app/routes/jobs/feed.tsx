import { Link } from "react-router";
import { Bench, type BenchItem } from "~/app/components/bench/bench";
import { Focus } from "~/app/components/bench/focus";
import { Budget } from "~/app/components/connect/budget";
import { Loads } from "~/app/components/connect/loads";
import { ConnectPages } from "~/app/components/connect/pages";
import { FEED_VERDICTS, PositionFocus } from "~/app/components/connect/position-focus";
import { Readings } from "~/app/components/connect/readings";
import { TapTest } from "~/app/components/connect/tap-test";
import { FuseView } from "~/app/components/drawings/fuse-view";
import { Notice, type Tone } from "~/app/components/marks";
import { orKept } from "~/app/lib/kept-job";
import { jobOf } from "~/app/server/jobs.server";
import type { FeedNeed } from "~/core/job/feed-need";
import { feedView } from "~/core/views/feed";
import type { Route } from "./+types/feed";

export async function loader({ context }: Route.LoaderArgs) {
  const { job } = await jobOf(context).load();
  return feedView(job);
}

export function clientLoader({ params, serverLoader }: Route.ClientLoaderArgs) {
  return orKept(params.job, serverLoader, ({ job, views }) => views.feedView(job));
}

type View = Route.ComponentProps["loaderData"];

export default function Feed({ loaderData: view }: Route.ComponentProps) {
  const open = view.candidates.find((c) => !c.forbidden && c.verdict !== "unfit");
  const looking = view.taken === null && (view.need.kind === "wanted" || view.need.kind === "byHand");
  return (
    <>
      <ConnectPages />
      <Bench
        label="Feed and power"
        items={itemsOf(view)}
        next={looking ? open?.position.id : tapOf(view) && view.tapLit !== true ? "tap" : "need"}
        car={(item) =>
          view.candidates.length > 0 && (
            <FuseView
              candidates={view.candidates}
              at={view.candidates.find((c) => c.position.id === item.id)?.position.id ?? view.taken}
            />
          )
        }
        empty={null}
      >
        {(item) => <InHand id={item.id} view={view} />}
      </Bench>
    </>
  );
}

const NEEDS: Readonly<Record<FeedNeed["kind"], { title: string; state: BenchItem["state"]; tone: Tone }>> = {
  wanted: { title: "This job needs a switched feed", state: "open", tone: "watch" },
  byHand: { title: "This job needs a switched feed", state: "open", tone: "watch" },
  taken: { title: "The feed is taken", state: "done", tone: "good" },
  none: { title: "No feed is needed", state: "done", tone: "good" },
};

/** The taken position when it is tapped. */
function tapOf({ candidates, taken }: View) {
  const found = candidates.find((c) => c.position.id === taken);
  return found?.tap ? found : null;
}

function itemsOf(view: View): BenchItem[] {
  const { candidates, need, taken, tapLit, draws, load, readings } = view;
  const look = { group: "Look up", state: "look" as const, word: "" };
  const folded = need.kind === "none";
  return [
    { id: "need", title: NEEDS[need.kind].title, state: NEEDS[need.kind].state, word: "" },
    ...(tapOf(view)
      ? [
          {
            id: "tap",
            title: "Is the tap the right way round?",
            state: tapLit === null ? ("open" as const) : tapLit ? ("done" as const) : ("wrong" as const),
            word: tapLit === null ? "to do" : tapLit ? "right" : "turn it",
          },
        ]
      : []),
    ...candidates
      .filter((c) => !c.forbidden)
      .map((c): BenchItem => {
        const isTaken = c.position.id === taken;
        return {
          id: c.position.id,
          title: `${c.position.id} ${c.position.circuit}`,
          aside: `${c.position.ratingA} A · ${isTaken ? "Taken" : FEED_VERDICTS[c.verdict].word}`,
          group: "Fuse panel, best first",
          state: isTaken ? "done" : c.verdict === "unfit" ? "later" : folded ? "look" : "open",
          word: isTaken ? "taken" : FEED_VERDICTS[c.verdict].word,
          folded,
        };
      }),
    ...(candidates.some((c) => c.forbidden) ? [{ ...look, id: "never", title: "Never touched" }] : []),
    {
      ...look,
      id: "loads",
      title: "Load by situation",
      aside: `${load.steadyA.toFixed(1)} A, ${load.peakA.toFixed(1)} A at the start`,
    },
    ...(draws.length > 0 ? [{ ...look, id: "budget", title: "Load, wire, battery" }] : []),
    {
      ...look,
      id: "readings",
      title: "Meter readings",
      ...(readings.length > 0 ? { aside: `${readings.length} kept` } : {}),
    },
  ];
}

function InHand({ id, view }: { id: string; view: View }) {
  const candidate = view.candidates.find((c) => c.position.id === id);
  if (candidate)
    return (
      <PositionFocus key={id} candidate={candidate} lit={new Map(view.tests).get(id) ?? {}} taken={view.taken === id} />
    );
  const taken = view.candidates.find((c) => c.position.id === view.taken) ?? null;
  switch (id) {
    case "tap":
      return <TapTest lit={view.tapLit} />;
    case "never":
      return <Never candidates={view.candidates} />;
    case "loads":
      return <Loads loads={view.loads} draws={view.draws} unknown={view.unknown} />;
    case "budget":
      return (
        <Budget draws={view.draws} load={view.load} batteryAh={view.batteryAh} taken={taken} ground={view.ground} />
      );
    case "readings":
      return <Readings readings={view.readings} />;
    default:
      return <Need view={view} />;
  }
}

function Need({ view: { need, candidates, car } }: { view: View }) {
  return (
    <Focus kicker="Switched feed from the fuse panel" title={NEEDS[need.kind].title}>
      <Notice tone={NEEDS[need.kind].tone}>
        <p>{need.say}</p>
      </Notice>
      {candidates.length === 0 && (
        <p>
          This car has no fuse map yet. Enter it in the{" "}
          <Link to={`/library/car/${car}`} className="underline">
            car's profile
          </Link>
          : position, circuit, rating, size and when it is live.
        </p>
      )}
    </Focus>
  );
}

function Never({ candidates }: Pick<View, "candidates">) {
  return (
    <Focus kicker="Somebody's life or the start of the engine depends on them" title="Never touched">
      <ul>
        {candidates
          .filter((c) => c.forbidden)
          .map((c) => (
            <li key={c.position.id} className="border-b border-rule py-1.5">
              <span className="num font-medium">{c.position.id}</span> {c.position.circuit}{" "}
              <span className="text-quiet">{c.reasons.join(" ")}</span>
            </li>
          ))}
      </ul>
    </Focus>
  );
}
