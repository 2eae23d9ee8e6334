import { parseWithZod } from "@conform-to/zod/v4";
import { data } from "react-router";
import { Baseline } from "~/app/components/intake/baseline";
import { CarSheetForm } from "~/app/components/intake/car-sheet-form";
import { carFormSchema } from "~/app/components/intake/schema";
import { VariantFinder } from "~/app/components/intake/variant-finder";
import { Wishes } from "~/app/components/intake/wishes";
import { libraryKits } from "~/app/server/fit.server";
import { readForm } from "~/app/server/form.server";
import { finderOf } from "~/app/server/intake.server";
import { jobOf, press, standIn } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import type { CarField, CarSheet } from "~/core/log/kinds/intake/car";
import { intakeView } from "~/core/views/intake";
import type { Route } from "./+types/intake";

export async function loader({ request, context }: Route.LoaderArgs) {
  const account = person(context);
  const loaded = await jobOf(context).load();
  const { form, ...view } = intakeView(loaded.job, await libraryKits(account));
  return {
    ...view,
    form: {
      ...form,
      thisYear: new Date().getFullYear(),
      standIn: (await standIn(account, loaded.row)) !== undefined,
    },
    finder: await finderOf(account, loaded, new URL(request.url).searchParams),
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
      <Wishes wishes={loaderData.wishes} asked={loaderData.wishesAsked} />
      {loaderData.finder.found && <Baseline tries={loaderData.baseline} />}
    </>
  );
}
