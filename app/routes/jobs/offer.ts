import { data } from "react-router";
import { kitNamed, libraryKits } from "~/app/server/fit.server";
import { jobOf } from "~/app/server/jobs.server";
import { renderOffer } from "~/app/server/offer.server";
import { person } from "~/app/server/session.server";
import { forOtherKit, offerOf } from "~/core/fit/offer";
import { widerWays } from "~/core/fit/try-first";
import { namedWishes } from "~/core/fit/wishes";
import { isBlank } from "~/core/job/blank";
import { offeredChoices } from "~/core/views/fit";
import type { Route } from "./+types/offer";

/** The offer for the customer as PDF, with gains and losses in plain words and a place to sign. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const account = person(context);
  const job = await jobOf(context).load();
  if (isBlank(job.plan.documents.variant))
    throw data("Which radio the car has is not known yet. Find it in Intake, then make the offer.", { status: 409 });
  const search = new URL(request.url).searchParams;
  const current = job.plan.documents.kit;
  const slug = search.get("kit") ?? current.id;
  const kit = slug === current.id && !isBlank(current) ? current : await kitNamed(account, slug);
  const wishes = namedWishes(await libraryKits(account), job.state.wishes ?? []);
  const choices = { ...(slug === current.id ? job.state.choices : {}), ...offeredChoices(kit, search) };
  const documents = { ...job.plan.documents, kit };
  const state = kit.id === current.id ? job.state : forOtherKit(job.state);
  const offer = offerOf(documents, state, choices, wishes);
  const tryFirst = widerWays(documents, state, choices);
  const pdf = await renderOffer({ shop: account.shopName, currency: account.currency, job, kit, offer, tryFirst });
  return new Response(new Uint8Array(pdf), {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `inline; filename="offer-${job.row.number}-${kit.id}.pdf"`,
    },
  });
}
