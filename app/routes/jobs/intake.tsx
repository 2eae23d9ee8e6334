import { parseWithZod } from "@conform-to/zod/v4";
import { data } from "react-router";
import { Baseline } from "~/app/components/intake/baseline";
import { CarSheetForm } from "~/app/components/intake/car-sheet-form";
import { carFormSchema } from "~/app/components/intake/schema";
import { VariantFinder } from "~/app/components/intake/variant-finder";
import { Wishes } from "~/app/components/intake/wishes";
import { libraryKits, wishesOf } from "~/app/server/fit.server";
import { finderOf } from "~/app/server/intake.server";
import { append, loadJob, standIn } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { isBlank } from "~/core/job/blank";
import type { Route } from "./+types/intake";

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const account = person(context);
  const job = await loadJob(account, params.job);
  const { state, plan } = job;
  const { car, variant, kit } = plan.documents;
  const own = new Set(kit.functions.map((f) => f.id));
  return {
    form: {
      sheet: state.car,
      basedOn: state.carEntry,
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

export async function action({ request, params, context }: Route.ActionArgs) {
  const submission = parseWithZod(await request.formData(), { schema: carFormSchema });
  if (submission.status !== "success") return data({ reply: submission.reply(), theirs: null }, { status: 400 });
  const { entry, basedOn, ...sheet } = submission.value;
  const result = await append(person(context), params.job, {
    id: entry,
    body: { kind: "intake.car", data: sheet },
    basedOn: basedOn ?? null,
  });
  if (result.ok) return { reply: submission.reply(), theirs: null };
  const theirs =
    result.theirs?.kind === "intake.car"
      ? { by: result.theirs.by, sheet: result.theirs.data, entry: result.theirs.id }
      : null;
  return data({ reply: submission.reply({ formErrors: [result.message] }), theirs }, { status: result.status });
}

export default function Intake({ loaderData, actionData }: Route.ComponentProps) {
  // Once the car is written down, the open question comes first.
  const finderFirst = loaderData.form.basedOn !== null && (!loaderData.finder.found || loaderData.finder.again);
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
