import { parseWithZod } from "@conform-to/zod/v4";
import { data } from "react-router";
import { Baseline } from "~/app/components/intake/baseline";
import { CarSheetForm } from "~/app/components/intake/car-sheet-form";
import { carFormSchema } from "~/app/components/intake/schema";
import { VariantFinder } from "~/app/components/intake/variant-finder";
import { Wishes } from "~/app/components/intake/wishes";
import { libraryKits, wishesOf } from "~/app/server/fit.server";
import { readForm } from "~/app/server/form.server";
import { finderOf } from "~/app/server/intake.server";
import { jobOf, press, standIn } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { isBlank } from "~/core/job/blank";
import type { CarField, CarSheet } from "~/core/log/kinds/intake/car";
import type { Route } from "./+types/intake";

export async function loader({ request, context }: Route.LoaderArgs) {
  const account = person(context);
  const job = await jobOf(context).load();
  const { state, plan } = job;
  const { car, variant, kit } = plan.documents;
  const own = new Set(kit.functions.map((f) => f.id));
  return {
    form: {
      sheet: state.car,
      begun: state.carFields.size > 0,
      patterns: car.identification,
      years: car.years,
      thisYear: new Date().getFullYear(),
      written: variant.firmware?.written ?? [],
      versions: (variant.firmware?.updates ?? []).flatMap((u) => [u.from, u.to]),
      standIn: (await standIn(account, job.row)) !== undefined,
    },
    finder: await finderOf(account, job, new URL(request.url).searchParams),
    baseline: plan.baseline.map((t) => ({
      id: t.id,
      name: t.fn.name,
      label: t.label,
      say: t.fn.say,
      caution: t.fn.caution,
      law: t.fn.who === "law",
      noted: state.baseline.get(t.id) ?? null,
    })),
    wishes: isBlank(variant)
      ? []
      : wishesOf(await libraryKits(account), plan.stock.functions).map((w) => ({
          ...w,
          wanted: state.wishes ? state.wishes.includes(w.id) : own.has(w.id),
        })),
  };
}

export async function action({ request, context }: Route.ActionArgs) {
  const source = jobOf(context);
  const submission = parseWithZod(await readForm(request), { schema: carFormSchema });
  if (submission.status !== "success")
    return data({ reply: submission.reply(), saved: null, theirs: null }, { status: 400 });
  const { entry, opened, ...sheet } = submission.value;
  const fields = (Object.keys(sheet) as CarField[]).filter((f) => sheet[f] !== opened[f]);
  const only = (of: CarSheet) => Object.fromEntries(fields.map((f) => [f, of[f]]));
  const saved = { reply: submission.reply(), saved: sheet, theirs: null };
  if (fields.length === 0) return saved;
  const command = { kind: "intake.car" as const, data: { changed: only(sheet), before: only(opened) } };
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

export default function Intake({ loaderData, actionData }: Route.ComponentProps) {
  // Once the car is written down, the open question comes first.
  const finderFirst = loaderData.form.begun && (!loaderData.finder.found || loaderData.finder.again);
  return (
    <>
      {finderFirst && <VariantFinder {...loaderData.finder} />}
      <CarSheetForm {...loaderData.form} answer={actionData} />
      {!finderFirst && <VariantFinder {...loaderData.finder} />}
      <Wishes wishes={loaderData.wishes} />
      {loaderData.finder.found && <Baseline tries={loaderData.baseline} />}
    </>
  );
}
