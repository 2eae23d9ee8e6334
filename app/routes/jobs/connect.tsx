import { Download, QrCode } from "lucide";
import { useParams } from "react-router";
import { z } from "zod";
import { Bench, type BenchItem } from "~/app/components/bench/bench";
import { Focus } from "~/app/components/bench/focus";
import { FindLead } from "~/app/components/connect/find-lead";
import { Findings } from "~/app/components/connect/findings";
import { ConnectPages } from "~/app/components/connect/pages";
import { PlugFocus } from "~/app/components/connect/plug-focus";
import { SignalPath } from "~/app/components/connect/signal-path";
import { TASK_DONE, TaskFocus } from "~/app/components/connect/task-focus";
import { WorksNow } from "~/app/components/connect/works-now";
import { buttonLook } from "~/app/components/controls";
import { BackView } from "~/app/components/drawings/back-view";
import { LeadView } from "~/app/components/drawings/lead-view";
import { useJob } from "~/app/components/entry-form";
import { Icon } from "~/app/components/icon";
import { Notice } from "~/app/components/marks";
import { orKept } from "~/app/lib/kept-job";
import { libraryKits } from "~/app/server/fit.server";
import { jobOf } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { connectView } from "~/core/views/connect";
import { situationSchema } from "~/profiles/schema";
import type { Route } from "./+types/connect";

const truth = z.enum(["true", "false"]).transform((t) => t === "true");
const { key, selector, source, pictureMode, phone } = situationSchema.shape;
const asked = z
  .object({ key, selector, source, pictureMode, phone, lights: truth, paired: truth })
  .partial()
  // A field that cannot be read counts as not asked.
  .catch({});

export async function loader({ request, context }: Route.LoaderArgs) {
  const account = person(context);
  const jobs = jobOf(context);
  const query = new URL(request.url).searchParams;
  const lane = query.get("lane");
  // Another function begins in its own situation.
  const same = lane === query.get("of");
  const { job } = await jobs.load();
  const situation = same ? asked.parse(Object.fromEntries(query)) : {};
  return connectView(job, await libraryKits(account), jobs.now, lane, situation);
}

/** On the device without other kits to choose, and each signal path in the situation of its test. */
export function clientLoader({ request, params, serverLoader }: Route.ClientLoaderArgs) {
  const lane = new URL(request.url).searchParams.get("lane");
  return orKept(params.job, serverLoader, ({ job, now, views }) => views.connectView(job, [], now, lane, {}));
}

type View = Route.ComponentProps["loaderData"];

export default function Connect({ loaderData: view }: Route.ComponentProps) {
  const { next, kitChosen } = useJob();
  return (
    <>
      <ConnectPages short={view.short} />
      <Bench
        label="Connections, in the order of plugging"
        items={itemsOf(view, kitChosen)}
        next={next.stage === "connect" && !next.page ? next.at : undefined}
        above={view.stops.length > 0 && <DoNotSwitchOn stops={view.stops} />}
        car={(item) => <Sockets view={view} id={item.id} />}
        empty={<p>Nothing is to be connected.</p>}
      >
        {(item, after, select) => <InHand id={item.id} view={view} after={after?.title} select={select} />}
      </Bench>
    </>
  );
}

/** What is done, in its order, and what can be looked up. */
function itemsOf(view: View, kitChosen: boolean): BenchItem[] {
  const { before, connections, planFindings, nowFindings, works, stays } = view;
  const problems = [...planFindings, ...nowFindings].filter((f) => f.level !== "note").length;
  const look = { group: "Look up", state: "look" as const, word: "" };
  return [
    ...before.map((t) => ({
      id: t.setting ?? t.id,
      title: t.say,
      group: "Before the kit goes in",
      state: t.done ? ("done" as const) : ("open" as const),
      word: t.done ? TASK_DONE[t.kind] : "to do",
    })),
    ...connections.map((c) => ({
      id: c.link,
      title: c.say,
      group: "Plug, in this order",
      state: c.wrong ? ("wrong" as const) : c.plugged ? ("done" as const) : ("open" as const),
      word: c.wrong ? "wrong place" : c.plugged ? "plugged" : "open",
    })),
    {
      ...look,
      id: "now",
      title: "If I switch on now",
      aside: `${works.filter((w) => w.works).length} of ${works.length} would work`,
    },
    { ...look, id: "lane", title: "Signal path" },
    {
      ...look,
      id: "checks",
      title: "Watch out when connecting",
      ...(problems > 0
        ? { aside: `${problems} to look at` }
        : kitChosen && planFindings.length + nowFindings.length === 0
          ? { aside: "Nothing found" }
          : {}),
    },
    { ...look, id: "lead", title: "Which lead is this?", aside: "By the code on its label" },
    ...(stays.length > 0 ? [{ ...look, id: "box", title: "Stays in the box" }] : []),
  ];
}

function InHand({
  id,
  view,
  after,
  select,
}: {
  id: string;
  view: View;
  after: string | undefined;
  select(id: string): void;
}) {
  const row = view.connections.find((c) => c.link === id);
  if (row) return <PlugFocus key={id} row={row} after={after} />;
  const task = view.before.find((t) => (t.setting ?? t.id) === id);
  if (task) return <TaskFocus task={task} after={after} />;
  if (id === "now") return <WorksNow {...view} />;
  if (id === "lane") return <SignalPath {...view} />;
  if (id === "lead") return <WhichLead connections={view.connections} onFound={select} />;
  if (id === "box") return <StaysInBox stays={view.stays} />;
  return (
    <Checks
      findings={[...view.nowFindings.filter((f) => f.level !== "stop"), ...view.planFindings]}
      stops={view.stops}
    />
  );
}

/**
 * The lead in hand from end to end, or the parts that sit in each other, with all their sockets: which one it is, and
 * which are plugged. With nothing in hand all parts, those with the most sockets first.
 */
function Sockets({ view, id }: { view: View; id: string }) {
  const row = view.connections.find((c) => c.link === id) ?? view.before.find((t) => (t.setting ?? t.id) === id);
  const ports = row?.ports ?? [];
  const filled = new Set(view.filled);
  if (row?.route)
    return <LeadView route={row.route} backs={view.backs} inHand={ports} filled={filled} made={new Set(view.made)} />;
  const joined = view.backs.filter((b) => ports.some((port) => port.startsWith(`${b.part}.`)));
  const all = view.backs.toSorted((a, b) => b.sockets.length - a.sockets.length);
  return (
    <div className="space-y-5">
      {(row ? joined : all).map((b) => (
        <BackView key={b.part} back={b} inHand={ports} filled={filled} />
      ))}
    </div>
  );
}

function DoNotSwitchOn({ stops }: { stops: View["stops"] }) {
  return (
    <section aria-labelledby="wrong" className="mb-5">
      <h2 id="wrong" className="mb-2 text-stop">
        Do not switch on
      </h2>
      <Findings findings={stops} />
    </section>
  );
}

function Checks({ findings, stops }: { findings: View["planFindings"]; stops: View["stops"] }) {
  const { kitChosen } = useJob();
  // With anything below it, this would say the opposite of what stands there.
  const isClear = findings.length === 0 && stops.length === 0;
  return (
    <Focus kicker="The plan, checked against the rules" title="Watch out when connecting">
      {kitChosen && isClear && (
        <Notice tone="good" title="Nothing found against it">
          <p>
            Every plug mates, every input has one output, every part has supply, fuse and ground, all factory connectors
            are reconnected.
          </p>
        </Notice>
      )}
      <Findings findings={findings} />
    </Focus>
  );
}

function WhichLead({ connections, onFound }: { connections: View["connections"]; onFound(link: string): void }) {
  const { job } = useParams();
  return (
    <Focus kicker="A lead in the hand" title="Which lead is this?">
      <FindLead connections={connections} onFound={onFound} />
      <p className="flex flex-wrap gap-2">
        <a href={`/jobs/${job}/labels.pdf`} className={buttonLook("quiet")} target="_blank" rel="noreferrer">
          <Icon of={QrCode} size={18} /> Labels for the leads
        </a>
        <a href={`/jobs/${job}/connections.csv`} className={buttonLook("quiet")}>
          <Icon of={Download} size={18} /> Connections as CSV
        </a>
      </p>
    </Focus>
  );
}

function StaysInBox({ stays }: Pick<View, "stays">) {
  return (
    <Focus kicker="Of the kit, not used on this car" title="Stays in the box">
      <ul>
        {stays.map((s) => (
          <li key={s.name} className="border-b border-rule py-1.5">
            <p className="font-medium">{s.name}</p>
            <p className="text-sm text-quiet">{s.why}</p>
          </li>
        ))}
      </ul>
    </Focus>
  );
}
