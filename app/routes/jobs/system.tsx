import { useState } from "react";
import { useParams } from "react-router";
import { Bench, type BenchItem } from "~/app/components/bench/bench";
import { ConnectPages } from "~/app/components/connect/pages";
import { PartFocus, type SystemPart } from "~/app/components/connect/part-focus";
import { ALL, type Filter, WholeSystem } from "~/app/components/connect/whole-system";
import { BackView } from "~/app/components/drawings/back-view";
import { LeadView } from "~/app/components/drawings/lead-view";
import { useJob } from "~/app/components/entry-form";
import { useLayout } from "~/app/lib/use-layout";
import { jobOf } from "~/app/server/jobs.server";
import { laidOutSoon } from "~/app/server/layout.server";
import { aroundPart, type DrawingGraph, onlyKind, onlyLayers } from "~/core/connect/drawing";
import { systemView } from "~/core/views/system";
import type { Route } from "./+types/system";

export async function loader({ request, context }: Route.LoaderArgs) {
  const { job } = await jobOf(context).load();
  const view = systemView(job);
  const at = new URL(request.url).searchParams.get("at");
  return { ...view, first: await laidOutSoon(shownOf(view.graph, at, ALL)) };
}

type View = Route.ComponentProps["loaderData"];

/** The item of everything; no part is called so, as their identifiers have no blanks. */
const WHOLE = "the whole";

/** What is drawn: what is around the part in hand, or everything that is asked for. */
function shownOf(graph: DrawingGraph, part: string | null, { layers, kind }: Filter): DrawingGraph {
  if (part !== null && graph.boxes.some((b) => b.id === part)) return aroundPart(graph, part);
  const shown = onlyLayers(graph, layers);
  return kind ? onlyKind(shown, kind) : shown;
}

export default function System({ loaderData: view }: Route.ComponentProps) {
  const [filter, setFilter] = useState(ALL);
  return (
    <>
      <ConnectPages />
      <Bench
        label="Parts of the system"
        items={itemsOf(view.parts)}
        next={WHOLE}
        car={(item) => socketsOf(view, item.id)}
        empty={<p>Nothing is connected yet.</p>}
      >
        {(item, _, select) => <InHand id={item.id} view={view} filter={filter} onFilter={setFilter} select={select} />}
      </Bench>
    </>
  );
}

function itemsOf(parts: readonly SystemPart[]): BenchItem[] {
  const rank = (p: SystemPart) => 2 * Number(!p.ofKit) + Number(p.type !== "device");
  return [
    { id: WHOLE, title: "The whole system", state: "look", word: "", stays: true },
    ...parts
      .toSorted((a, b) => rank(a) - rank(b))
      .map((p): BenchItem => {
        const plugs = p.lines.filter((l) => l.standing !== "built");
        const made = plugs.filter((l) => l.standing === "plugged").length;
        const state = plugs.some((l) => l.standing === "wrong") ? "wrong" : made < plugs.length ? "open" : "done";
        return {
          id: p.id,
          title: p.name,
          group: p.ofKit ? "Of the kit" : "Of the car",
          stays: true,
          ...(plugs.length === 0
            ? { state: "look", word: "" }
            : {
                state,
                word: state === "wrong" ? "wrong place" : "plugged",
                aside: `${made} of ${plugs.length} plugged`,
              }),
        };
      }),
  ];
}

function InHand({
  id,
  view,
  filter,
  onFilter,
  select,
}: {
  id: string;
  view: View;
  filter: Filter;
  onFilter(filter: Filter): void;
  select(id: string): void;
}) {
  const { job = "" } = useParams();
  const { job: overview } = useJob();
  const { drawing, pending } = useLayout(shownOf(view.graph, id, filter), view.first);
  const part = view.parts.find((p) => p.id === id);
  if (part)
    return (
      <PartFocus part={part} drawing={drawing} pending={pending} connect={`/jobs/${job}/connect`} select={select} />
    );
  return (
    <WholeSystem
      drawing={drawing}
      pending={pending}
      kinds={new Set(view.graph.lines.flatMap((l) => l.kinds))}
      filter={filter}
      onFilter={onFilter}
      job={job}
      number={overview.number}
      select={select}
    />
  );
}

/** The part in hand from the side of its sockets, or the lead with what its ends go into. */
function socketsOf(view: View, id: string) {
  const part = view.parts.find((p) => p.id === id);
  if (!part) return null;
  const filled = new Set(view.filled);
  if (part.route) {
    const backs = view.parts.flatMap((p) => p.back ?? []);
    return <LeadView route={part.route} backs={backs} inHand={[]} filled={filled} made={new Set(view.made)} />;
  }
  return part.back && <BackView back={part.back} inHand={[]} filled={filled} />;
}
