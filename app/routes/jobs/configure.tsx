import { Bench, type BenchItem } from "~/app/components/bench/bench";
import {
  type Bank,
  BankFocus,
  ConflictFocus,
  EffectsFocus,
  PowerCycleFocus,
} from "~/app/components/configure/bank-focus";
import { FirmwareFocus } from "~/app/components/configure/firmware-focus";
import { LoadFocus } from "~/app/components/configure/load-focus";
import { MapFocus } from "~/app/components/configure/map-focus";
import { PhoneFocus } from "~/app/components/configure/phone-focus";
import { PlugFocus } from "~/app/components/configure/plug-focus";
import { SettingFocus } from "~/app/components/configure/setting-focus";
import { UnitsFocus } from "~/app/components/configure/units-focus";
import { WordFocus } from "~/app/components/configure/word-focus";
import { useJob } from "~/app/components/entry-form";
import { Notice } from "~/app/components/marks";
import { orKept } from "~/app/lib/kept-job";
import { CarSessionProvider } from "~/app/lib/use-car-session";
import { codingMapsFor } from "~/app/server/coding.server";
import { jobOf } from "~/app/server/jobs.server";
import type { CodingView } from "~/core/views/coding";
import { configureView } from "~/core/views/configure";
import type { Route } from "./+types/configure";

export async function loader({ context }: Route.LoaderArgs) {
  const source = jobOf(context);
  const { job } = await source.load();
  return { ...configureView(job, source.now), maps: await codingMapsFor(source.account, job) };
}

export function clientLoader({ params, serverLoader }: Route.ClientLoaderArgs) {
  return orKept(params.job, serverLoader, ({ job, now, views }) => ({ ...views.configureView(job, now), maps: [] }));
}

type View = Route.ComponentProps["loaderData"];

export default function Configure({ loaderData: view }: Route.ComponentProps) {
  const { next, kitChosen, job } = useJob();
  return (
    <CarSessionProvider standIn={job.practice}>
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
        {(item, after, select) => <InHand id={item.id} view={view} after={after?.title} select={select} />}
      </Bench>
    </CarSessionProvider>
  );
}

function itemsOf({ sets, bank, coding, maps, firmware, phone }: View): BenchItem[] {
  const coded = sets.some((s) => s.means === "coding" || s.means === "gateway");
  // What the pairing of a phone brings has no row of its own.
  const own = sets.filter((s) => s.setting !== phone?.rules.setting);
  return [
    ...(firmware ? [firmwareItem(firmware)] : []),
    ...own.filter((s) => s.means !== "menu").map((s) => setItem(s, "Settings to make")),
    ...(bank ? bankItems(bank) : []),
    ...own.filter((s) => s.means === "menu").map((s) => setItem(s, "Menus")),
    ...(phone ? [phoneItem(phone)] : []),
    ...(bank
      ? [{ id: "effects", title: "What each switch does", group: "Look up", state: "look" as const, word: "" }]
      : []),
    ...(coding ? codingItems(coding) : []),
    ...(coding || coded || maps.length > 0
      ? [
          {
            id: "coding-map",
            title: "Coding map",
            group: CODED,
            state: !coding && coded ? ("open" as const) : ("look" as const),
            word: !coding && coded ? "to choose" : "",
          },
        ]
      : []),
  ];
}

function setItem({ setting, say, where, done, means }: View["sets"][number], group: string): BenchItem {
  return {
    id: setting,
    title: say,
    ...(where ? { aside: where } : {}),
    group,
    state: done ? "done" : "open",
    word: done ? "made" : "to do",
    stays: means === "programmingPlug" || means === "programming",
  };
}

function firmwareItem({ present, running, interrupted, step, left }: NonNullable<View["firmware"]>): BenchItem {
  const head = { id: "firmware", group: "Firmware", stays: true };
  if (interrupted) return { ...head, title: "Update interrupted", state: "wrong", word: "interrupted" };
  if (running) return { ...head, title: `Update to ${running.to}`, aside: "Running", state: "watch", word: "running" };
  if (!step) return { ...head, title: `Firmware ${present}`, state: "done", word: "as it should" };
  const more = left > 1 ? `, then ${left - 1} more` : "";
  return { ...head, title: `Update to ${step.to}`, aside: `${step.minutes} min${more}`, state: "open", word: "to do" };
}

function phoneItem({ phones, open }: NonNullable<View["phone"]>): BenchItem {
  const head = { id: "phone", group: "Phones", stays: true };
  const begun = phones.find((p) => p.step !== null);
  if (begun)
    return {
      ...head,
      title: begun.phone,
      aside: begun.step?.title ?? "",
      state: begun.trouble ? "wrong" : "watch",
      word: begun.trouble ? "not as it should" : "under way",
    };
  if (phones.length > 0)
    return { ...head, title: phones.map((p) => p.phone).join(", "), state: "done", word: "paired" };
  return { ...head, title: "Pair the first phone", state: open ? "open" : "look", word: open ? "to do" : "" };
}

const CODED = "Control units and coded words";

function codingItems({ units, words }: CodingView): BenchItem[] {
  const found = units.filter((u) => u.seen?.answered).length;
  return [
    {
      id: "units",
      title: "Control units",
      aside: units.some((u) => u.seen) ? `${found} of ${units.length} answer` : "Not scanned yet",
      group: CODED,
      state: units.some((u) => u.seen) ? "done" : "open",
      word: units.some((u) => u.seen) ? "scanned" : "to scan",
      stays: true,
    },
    ...words.map((w) => ({ id: w.ref, title: w.title, group: CODED, stays: true, ...standing(w) })),
  ];
}

/** How a word stands, for its row. */
function standing(w: CodingView["words"][number]): Pick<BenchItem, "state" | "word" | "aside"> {
  if (w.unfit) return { state: "wrong", word: "does not fit", aside: "Does not fit the map" };
  if (w.notKnown) return { state: "wrong", word: "not known", aside: "Not known" };
  switch (w.standing) {
    case "unread":
      return w.wanted.length > 0
        ? { state: "open", word: "to read", aside: "To read" }
        : { state: "look", word: "", aside: "Not read" };
    case "change":
      return {
        state: "open",
        word: "to change",
        aside: `${w.changes} ${w.changes === 1 ? "change" : "changes"} to write`,
      };
    case "waits":
      return { state: "watch", word: "cannot be judged yet", aside: "Cannot be judged yet" };
    case "right":
      return { state: "done", word: "as it should", aside: "As it should" };
    case "noMatter":
      return { state: "look", word: "", aside: "Read" };
  }
}

function bankItems({ solution, entered, differences, powerCycled, powerOut }: Bank): BenchItem[] {
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
      aside:
        powerOut !== null
          ? "The plug is out"
          : powerCycled
            ? "Done after the last change"
            : "Not done since the last change",
      group,
      state: powerOut !== null ? "watch" : powerCycled ? "done" : "open",
      word: powerOut !== null ? "under way" : powerCycled ? "done" : "to do",
    },
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
  const { coding } = view;
  const set = view.sets.find((s) => s.setting === id);
  if (view.plug && id === view.plug.plug.setting)
    return <PlugFocus view={view.plug} writing={view.writing} after={after} />;
  if (id === "phone" && view.phone) return <PhoneFocus view={view.phone} after={after} />;
  if (set?.means === "programming")
    return <LoadFocus key={set.setting} set={set} identification={view.identification} after={after} />;
  if (set) return <SettingFocus set={set} word={coding?.settings[id]} maps={view.maps} select={select} after={after} />;
  if (id === "firmware" && view.firmware)
    return <FirmwareFocus {...view.firmware} writing={view.writing} after={after} />;
  if (id === "coding-map") return <MapFocus maps={view.maps} taken={coding?.map.title ?? null} />;
  const word = coding?.words.find((w) => w.ref === id);
  if (coding && word) return <WordFocus word={word} coding={coding} writing={view.writing} after={after} />;
  if (coding && id === "units") return <UnitsFocus coding={coding} after={after} />;
  if (!view.bank) return null;
  const { solution } = view.bank;
  // Until somebody has chosen the bank has no positions to show.
  if (id === "conflict" || (id === "bank" && solution.conflict.length > 0)) return <ConflictFocus {...solution} />;
  if (id === "power-cycle") return <PowerCycleFocus {...view.bank} />;
  if (id === "effects") return <EffectsFocus {...view.bank} />;
  return <BankFocus {...view.bank} />;
}
