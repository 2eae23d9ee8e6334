import { Link } from "react-router";
import { BackToConnections } from "~/app/components/connect/back-link";
import { Budget } from "~/app/components/connect/budget";
import { FeedList } from "~/app/components/connect/feed-list";
import { Loads } from "~/app/components/connect/loads";
import { Readings } from "~/app/components/connect/readings";
import { TapTest } from "~/app/components/connect/tap-test";
import { Section } from "~/app/components/controls";
import { Notice } from "~/app/components/marks";
import { jobOf } from "~/app/server/jobs.server";
import { feedView } from "~/core/views/feed";
import type { Route } from "./+types/feed";

export async function loader({ context }: Route.LoaderArgs) {
  const { job } = await jobOf(context).load();
  return feedView(job);
}

export default function Feed({ loaderData: d }: Route.ComponentProps) {
  const taken = d.candidates.find((c) => c.position.id === d.taken) ?? null;
  return (
    <>
      <BackToConnections />
      <div className="grid grid-cols-[minmax(0,1fr)] gap-x-10 xl:grid-cols-2">
        <Section
          title="Switched feed from the fuse panel"
          id="feeds"
          aside={`${d.load.steadyA.toFixed(1)} A steady, ${d.load.peakA.toFixed(1)} A at the start`}
        >
          {d.candidates.length === 0 ? (
            <Notice tone="none" title="This car has no fuse map yet">
              <p>
                Enter it in the <Link to={`/library/car/${d.car}`}>car's profile</Link>: position, circuit, rating, size
                and when it is live.
              </p>
            </Notice>
          ) : (
            <>
              {d.wanted && (
                <div className="mb-2">
                  <Notice tone="watch" title="This job needs a switched feed">
                    <p>Until a position is taken, the connection to the fuse panel counts as open.</p>
                  </Notice>
                </div>
              )}
              <FeedList candidates={d.candidates} tests={new Map(d.tests)} taken={d.taken} />
              {taken?.tap && <TapTest lit={d.tapLit} />}
            </>
          )}
        </Section>
        <div>
          <Loads loads={d.loads} draws={d.draws} />
          <Budget draws={d.draws} load={d.load} batteryAh={d.batteryAh} taken={taken} ground={d.ground} />
          <Readings readings={d.readings} />
        </div>
      </div>
    </>
  );
}
