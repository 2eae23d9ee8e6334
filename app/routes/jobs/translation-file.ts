import { data } from "react-router";
import { jobOf } from "~/app/server/jobs.server";
import { translationFile, translationTable } from "~/core/bus/translation/export";
import type { Route } from "./+types/translation-file";

/** The translation of the job: `json` complete, `csv` as a plain table. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const { row, job } = await jobOf(context).load();
  const { translation, signals } = job.state;
  if (params.form !== "json" && params.form !== "csv") throw data("There is no such file.", { status: 404 });
  const rules = translation?.rules ?? [];
  const json = params.form === "json";
  const text = json
    ? `${JSON.stringify(translationFile({ rules }, signals), null, 2)}\n`
    : `\uFEFF${translationTable({ rules })}\r\n`;
  return new Response(text, {
    headers: {
      "Content-Type": json ? "application/json; charset=utf-8" : "text/csv; charset=utf-8",
      "Content-Disposition": `attachment; filename="translation-${row.number}.${params.form}"`,
    },
  });
}
