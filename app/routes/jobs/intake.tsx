import { data } from "react-router";
import { Bench, type BenchItem } from "~/app/components/bench/bench";
import { DashView } from "~/app/components/drawings/dash-view";
import { useJob } from "~/app/components/entry-form";
import { BaselineFocus } from "~/app/components/intake/baseline";
import { CarSheetForm } from "~/app/components/intake/car-sheet-form";
import { checkSheet, type SheetForm } from "~/app/components/intake/check-sheet";
import { checking } from "~/app/components/intake/checking";
import { VariantFinder } from "~/app/components/intake/variant-finder";
import { Wishes } from "~/app/components/intake/wishes";
import { orKept, pressAnywhere } from "~/app/lib/kept-job";
import { libraryKits } from "~/app/server/fit.server";
import { readForm } from "~/app/server/form.server";
import { finderOf } from "~/app/server/intake.server";
import { jobOf, press } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import type { CarField, CarSheet } from "~/core/log/kinds/intake/car";
import { intakeView } from "~/core/views/intake";
import type { Route } from "./+types/intake";

export async function loader({ request, context }: Route.LoaderArgs) {
  const account = person(context);
  const source = jobOf(context);
  const loaded = await source.load();
  const { form, ...view } = intakeView(loaded.job, await libraryKits(account), source.now);
  const { searchParams } = new URL(request.url);
  return {
    ...view,
    form: {
      ...form,
      thisYear: new Date().getFullYear(),
      standIn: loaded.row.practice,
    },
    finder: view.found && !searchParams.has("again") ? null : await finderOf(account, loaded, searchParams),
  };
}

/** On the device the radio is not looked for: the shop's variants stay with the server. */
export function clientLoader({ params, serverLoader }: Route.ClientLoaderArgs) {
  return orKept(params.job, serverLoader, ({ kept, job, now, views }) => {
    const { form, ...view } = views.intakeView(job, [], now);
    return {
      ...view,
      form: { ...form, thisYear: new Date(now).getFullYear(), standIn: kept.row.practice },
      finder: view.found ? null : views.finderView(job, [], new Map(), new URLSearchParams()),
    };
  });
}

export async function action({ request, context }: Route.ActionArgs) {
  const source = jobOf(context);
  const submission = checkSheet(await readForm(request));
  if (submission.status !== "success")
    return data({ reply: submission.reply(), saved: null, theirs: null }, { status: 400 });
  const { entry, fields, sheet, opened, command } = changeOf(submission.value);
  const saved = { reply: submission.reply(), saved: sheet, theirs: null };
  if (fields.length === 0) return saved;
  const result = await press(source, [{ id: entry, command }]);
  if (result.ok) return saved;
  const now = (await source.load()).state.car;
  const conflicts = fields.filter((f) => now[f] !== opened[f] && now[f] !== sheet[f]);
  const theirs = result.theirs
    ? { by: result.theirs.by, sheet: Object.fromEntries(conflicts.map((f) => [f, now[f]])) as Partial<CarSheet> }
    : null;
  return data(
    { reply: submission.reply({ formErrors: [result.message] }), saved: null, theirs },
    { status: result.status },
  );
}

/** What was changed on a sheet, as a command. */
function changeOf({ entry, opened, ...sheet }: SheetForm) {
  const fields = (Object.keys(sheet) as CarField[]).filter((f) => sheet[f] !== opened[f]);
  const only = (of: CarSheet) => Object.fromEntries(fields.map((f) => [f, of[f]]));
  const command = { kind: "intake.car" as const, data: { changed: only(sheet), before: only(opened) } };
  return { entry, fields, sheet, opened, command };
}

/** Where the server cannot take it now the device keeps it and sends it later; the words stay in the form. */
export async function clientAction({ request, params, serverAction }: Route.ClientActionArgs) {
  const check = await checking();
  const submission = check.checkSheet(await request.clone().formData());
  if (submission.status !== "success") return { reply: submission.reply(), saved: null, theirs: null };
  const { entry, fields, sheet, command } = changeOf(submission.value);
  const saved = { reply: submission.reply(), saved: sheet, theirs: null };
  if (fields.length === 0) return saved;
  const form = new FormData();
  form.set("entry", entry);
  form.set("body", JSON.stringify(command));
  const answer = await pressAnywhere(params.job, form, serverAction);
  if ("reply" in answer) return answer;
  return answer.ok ? saved : { reply: submission.reply({ formErrors: [answer.message] }), saved: null, theirs: null };
}

export default function Intake({ loaderData: view, actionData }: Route.ComponentProps) {
  const { next } = useJob();
  return (
    <Bench
      label="Intake"
      items={itemsOf(view)}
      next={next.stage === "intake" ? next.at : undefined}
      car={(item) => {
        const tried = view.baseline.find((t) => t.id === item.id);
        return tried && view.dash && <DashView dash={view.dash} at={tried.at} />;
      }}
      empty={null}
    >
      {(item, after) => <InHand id={item.id} view={view} answer={actionData} after={after?.title} />}
    </Bench>
  );
}

type View = Route.ComponentProps["loaderData"];

const BASELINE = { pass: "works", fail: "fails", absent: "not present" } as const;

function itemsOf({ form, found, wishes, wishesAsked, baseline }: View): BenchItem[] {
  return [
    {
      id: "car",
      title: "The car",
      aside: form.sheet.plate || form.sheet.identification || "Identification, odometer, codes",
      group: "The car as it came in",
      state: form.begun ? "done" : "open",
      word: form.begun ? "saved" : "to do",
    },
    {
      id: "variant",
      title: "Which radio is it?",
      aside: found?.title ?? "Not found yet",
      group: "The car as it came in",
      state: found ? "done" : "open",
      word: found ? "found" : "to do",
    },
    ...(wishes.length > 0
      ? [
          {
            id: "wishes",
            title: "What the customer wants",
            aside: wishesAsked ? `${wishes.filter((w) => w.wanted).length} of ${wishes.length}` : "Not asked yet",
            group: "The car as it came in",
            state: wishesAsked ? ("done" as const) : ("open" as const),
            word: wishesAsked ? "asked" : "to do",
            stays: true,
          },
        ]
      : []),
    ...(found ? baseline : []).map((t) => ({
      id: t.id,
      title: t.name,
      aside: t.label,
      group: "Baseline: what works today",
      state: t.noted === null ? ("open" as const) : t.noted.value === "fail" ? ("watch" as const) : ("done" as const),
      word: t.noted ? BASELINE[t.noted.value] : "not tried",
    })),
  ];
}

function InHand({
  id,
  view,
  answer,
  after,
}: {
  id: string;
  view: View;
  answer: Route.ComponentProps["actionData"];
  after: string | undefined;
}) {
  const tried = view.baseline.find((t) => t.id === id);
  if (tried) return <BaselineFocus key={id} now={tried} after={after} />;
  if (id === "variant") return <VariantFinder {...view} />;
  if (id === "wishes") return <Wishes wishes={view.wishes} asked={view.wishesAsked} />;
  return <CarSheetForm {...view.form} answer={answer} />;
}
