import { renderCertificate } from "~/app/server/certificate.server";
import { jobOf } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import type { Route } from "./+types/certificate";

/** The certificate with the customer's card, as PDF. */
export async function loader({ context }: Route.LoaderArgs) {
  const account = person(context);
  const { row, state, plan } = await jobOf(context).load();
  const pdf = await renderCertificate({ shop: account.shopName, job: row, state, plan });
  return new Response(new Uint8Array(pdf), {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `inline; filename="certificate-${row.number}.pdf"`,
    },
  });
}
