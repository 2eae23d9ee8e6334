import { Bench, type BenchItem } from "~/app/components/bench/bench";
import {
  type Bank,
  BankFocus,
  ConflictFocus,
  EffectsFocus,
  PowerCycleFocus,
} from "~/app/components/configure/bank-focus";
import { SettingFocus } from "~/app/components/configure/setting-focus";
import { useJob } from "~/app/components/entry-form";
import { Notice } from "~/app/components/marks";
import { orKept } from "~/app/lib/kept-job";
import { jobOf } from "~/app/server/jobs.server";
import { configureView } from "~/core/views/configure";
import type { Route } from "./+types/configure";

export async function loader({ context }: Route.LoaderArgs) {
  const source = jobOf(context);
  const { job } = await source.load();
  return configureView(job, source.now);
}

export function clientLoader({ params, serverLoader }: Route.ClientLoaderArgs) {
  return orKept(params.job, serverLoader, ({ job, now, views }) => views.configureView(job, now));
}

type View = Route.ComponentProps["loaderData"];

export default function Configure({ loaderData: view }: Route.ComponentProps) {
  const { next, kitChosen } = useJob();
  return (
    <Bench
      label="Settings to make"
      items={kitChosen ? itemsOf(view) : []}
      next={next.stage === "configure" ? next.at : undefined}
      car={null}
      empty={
        // Without a kit it is not known what has to be set; the layout says so.
        kitChosen && <Notice tone="good" title="Nothing to set: this kit has neither a switch bank nor settings." />
      }
    >
      {(item, after) => <InHand id={item.id} view={view} after={after?.title} />}
    </Bench>
  );
}

function itemsOf({ sets, bank }: View): BenchItem[] {
  return [
    ...sets.map((s) => ({
      id: s.setting,
      title: s.say,
      group: "Settings to make",
      state: s.done ? ("done" as const) : ("open" as const),
      word: s.done ? "made" : "to do",
    })),
    ...(bank ? bankItems(bank) : []),
  ];
}

function bankItems({ solution, entered, differences, powerCycled }: Bank): BenchItem[] {
  const group = "Switch bank";
  const wrong = differences.length > 0;
  const stands = entered === null ? "open" : wrong ? "wrong" : solution.settings ? "done" : "watch";
  return [
    ...(solution.conflict.length > 0
      ? [{ id: "conflict", title: "What the car is to do without", group, state: "watch" as const, word: "to choose" }]
      : []),
    {
      id: "bank",
      title: "Switch bank",
      aside: entered === null ? "Not entered yet" : wrong ? `${differences.length} wrong` : "Entered",
      group,
      state: stands,
      word: entered === null ? "to do" : wrong ? "wrong" : "entered",
    },
    {
      id: "power-cycle",
      title: "Power cycle",
      aside: powerCycled ? "Done after the last change" : "Not done since the last change",
      group,
      state: powerCycled ? "done" : "open",
      word: powerCycled ? "done" : "to do",
    },
    { id: "effects", title: "What each switch does", group: "Look up", state: "look", word: "" },
  ];
}

function InHand({ id, view, after }: { id: string; view: View; after: string | undefined }) {
  const set = view.sets.find((s) => s.setting === id);
  if (set) return <SettingFocus set={set} after={after} />;
  if (!view.bank) return null;
  const { conflict } = view.bank.solution;
  // Until somebody has chosen the bank has no positions to show.
  if (id === "conflict" || (id === "bank" && conflict.length > 0)) return <ConflictFocus ways={conflict} />;
  if (id === "power-cycle") return <PowerCycleFocus {...view.bank} />;
  if (id === "effects") return <EffectsFocus {...view.bank} />;
  return <BankFocus {...view.bank} />;
}
