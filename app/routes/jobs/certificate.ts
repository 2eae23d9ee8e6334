import { renderCertificate } from "~/app/server/certificate.server";
import { jobOf, knowWishes } from "~/app/server/jobs.server";
import { certificateOf } from "~/core/job/certificate";
import type { Route } from "./+types/certificate";

/** The certificate with the customer's card, as PDF. */
export async function loader({ context }: Route.LoaderArgs) {
  const source = jobOf(context);
  const { row, job } = await source.load();
  await knowWishes(source.account, job);
  const certificate = certificateOf(job, source.now);
  const pdf = await renderCertificate({ shop: source.account.shopName, job: row, certificate });
  return new Response(new Uint8Array(pdf), {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `inline; filename="certificate-${row.number}.pdf"`,
    },
  });
}
