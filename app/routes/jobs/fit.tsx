import { data } from "react-router";
import { Candidates } from "~/app/components/fit/candidates";
import { OfferView } from "~/app/components/fit/offer";
import { Notice } from "~/app/components/marks";
import { database } from "~/app/server/db.server";
import { colourWarnings, kitNamed, libraryKits, ranked } from "~/app/server/fit.server";
import { jobOf } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { namedWishes } from "~/core/fit/wishes";
import { isBlank } from "~/core/job/blank";
import { offeredChoices, offerView, shownKit } from "~/core/views/fit";
import { usualOptions } from "~/db/usual";
import type { Route } from "./+types/fit";

export async function loader({ request, context }: Route.LoaderArgs) {
  const account = person(context);
  const { job } = await jobOf(context).load();
  const current = job.plan.documents.kit;
  if (isBlank(job.plan.documents.variant)) return { ready: false as const };
  const search = new URL(request.url).searchParams;
  const kits = await libraryKits(account);
  const list = await ranked(account, job, kits);
  const slug = shownKit(job, search.get("kit"), list);
  if (slug === null) return { ready: true as const, list, selected: null };
  const kit = current.id === slug ? current : await kitNamed(account, slug);
  const usual = offeredChoices(kit, Object.entries(await usualOptions(database(), account.shopId)));
  return {
    ready: true as const,
    list,
    selected: {
      ...offerView(job, kit, list, kits, usual, search),
      colours: colourWarnings(account, kit, kits),
      mayMakeUsual: account.role === "lead",
    },
    wishes: namedWishes(kits, job.state.wishes ?? []),
  };
}

export function action() {
  throw data(null, { status: 405 });
}

export default function Fit({ loaderData }: Route.ComponentProps) {
  if (!loaderData.ready)
    return (
      <Notice tone="watch" title="Which radio the car has is not known yet">
        <p>Answer the questions in Intake first; every kit depends on it.</p>
      </Notice>
    );
  const { list, selected } = loaderData;
  return (
    <>
      <Candidates list={list} selected={selected?.offer.pin.slug ?? null} wishes={loaderData.wishes ?? []} />
      {selected ? (
        <OfferView {...selected} />
      ) : (
        <Notice tone="stop" title="No kit of the library fits this radio">
          <p>The reasons stand behind each kit above. Enter another kit in the library, or choose other work.</p>
        </Notice>
      )}
    </>
  );
}
