import { parseWithZod } from "@conform-to/zod/v4";
import { data } from "react-router";
import { Baseline } from "~/app/components/intake/baseline";
import { CarSheetForm } from "~/app/components/intake/car-sheet-form";
import { carFormSchema } from "~/app/components/intake/schema";
import { Wishes } from "~/app/components/intake/wishes";
import { append, loadJob } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import type { Route } from "./+types/intake";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { state, plan } = await loadJob(person(context), params.job);
  const stock = new Set(plan.stock.functions.map((f) => f.id));
  return {
    form: {
      sheet: state.car,
      basedOn: state.carEntry,
      patterns: plan.documents.car.identification,
      years: plan.documents.car.years,
      thisYear: new Date().getFullYear(),
    },
    baseline: plan.baseline.map((t) => ({
      id: t.id,
      name: t.fn.name,
      label: t.label,
      say: t.fn.say,
      caution: t.fn.caution,
      law: t.fn.who === "law",
      noted: state.baseline.get(t.id) ?? null,
    })),
    wishes: plan.fitted.functions
      .filter((f) => !stock.has(f.id) && f.who === "customer")
      .map((f) => ({ id: f.id, name: f.name, wanted: state.wishes?.includes(f.id) ?? true })),
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
  return (
    <>
      <CarSheetForm {...loaderData.form} answer={actionData} />
      <Baseline tries={loaderData.baseline} />
      <Wishes wishes={loaderData.wishes} />
    </>
  );
}
