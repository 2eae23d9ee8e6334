import { data } from "react-router";
import { Bench, type BenchItem } from "~/app/components/bench/bench";
import { Focus } from "~/app/components/bench/focus";
import { Page } from "~/app/components/bench/page";
import { useJob } from "~/app/components/entry-form";
import { Balance } from "~/app/components/fit/balance";
import { Compare, kitItems } from "~/app/components/fit/candidates";
import { Ledger } from "~/app/components/fit/ledger";
import { NeedsList } from "~/app/components/fit/needs";
import { OfferFocus, offerAddress, WhyNot } from "~/app/components/fit/offer";
import { SignOffer } from "~/app/components/fit/sign-offer";
import { Notice } from "~/app/components/marks";
import { useMoney } from "~/app/lib/money";
import { unlessStayed } from "~/app/lib/stays";
import { database } from "~/app/server/db.server";
import { colourWarnings, kitNamed, libraryKits, ranked } from "~/app/server/fit.server";
import { jobOf } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import type { Candidate } from "~/core/fit/rank";
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
  const chosen = isBlank(current) ? null : current.id;
  if (slug === null) return { ready: true as const, list, chosen, selected: null };
  const kit = current.id === slug ? current : await kitNamed(account, slug);
  const usual = offeredChoices(kit, Object.entries(await usualOptions(database(), account.shopId)));
  return {
    ready: true as const,
    list,
    chosen,
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

/** Counts and choices that the server could not take now stay on the page. */
export const shouldRevalidate = unlessStayed;

export default function Fit({ loaderData }: Route.ComponentProps) {
  const price = useMoney();
  const { next } = useJob();
  if (!loaderData.ready)
    return (
      <Page>
        <Notice tone="watch" title="Which radio the car has is not known yet">
          <p>Answer the questions in Intake first; every kit depends on it.</p>
        </Notice>
      </Page>
    );
  const { list, selected, wishes = [] } = loaderData;
  const offer = selected?.offer;
  return (
    <Bench
      label="Kits for this radio"
      items={[...offerItems(selected), ...kitItems(list, wishes, loaderData.chosen, price)]}
      next={next.stage === "fit" && next.at === "sign" ? "sign" : offer?.pin.slug}
      above={
        !selected ? (
          <Notice tone="stop" title="No kit of the library fits this radio">
            <p>The reasons stand behind each kit. Enter another kit in the library, or choose other work.</p>
          </Notice>
        ) : (
          wishes.length > 0 &&
          list.every((c) => c.verdict.level === "impossible" || c.met.length === 0) && (
            <p className="mb-3 pr-14 text-watch">No kit gives what the customer wants on this radio.</p>
          )
        )
      }
      car={offer && offer.verdict.level !== "impossible" && <Balance lines={offer.lines} />}
      empty={<p>The library has no kits yet.</p>}
    >
      {(item) => <InHand id={item.id} list={list} selected={selected} />}
    </Bench>
  );
}

type Selected = Extract<Route.ComponentProps["loaderData"], { ready: true }>["selected"];

/** What can be looked up of the offer that is shown. */
function offerItems(selected: Selected): BenchItem[] {
  if (!selected) return [];
  const { offer, why, signature, isCurrent } = selected;
  const group = "This offer";
  const look = { group, state: "look" as const, word: "" };
  const address = offerAddress(offer);
  if (offer.verdict.level === "impossible") return [];
  return [
    { ...look, id: "ledger", title: "Gained, kept, lost", to: `?${address}&at=ledger` },
    ...(why ? [{ ...look, id: "why", title: `Why not: ${why.name}` }] : []),
    { ...look, id: "needs", title: "What it takes", to: `?${address}&at=needs` },
    ...(isCurrent
      ? [
          {
            id: "sign",
            title: "The customer's word",
            group,
            state: signature === "counts" ? ("done" as const) : ("open" as const),
            word: { counts: "signed", other: "signed for another offer", none: "not signed" }[signature],
          },
        ]
      : []),
    { ...look, id: "compare", title: "Compare kits" },
  ];
}

function InHand({ id, list, selected }: { id: string; list: Candidate[]; selected: Selected }) {
  if (id === "compare") return <Compare list={list} />;
  if (!selected) return <WhyNotFit list={list} id={id} />;
  const { offer, why, signed, signature, confirmed } = selected;
  if (id === "ledger")
    return (
      <Ledger
        lines={offer.lines}
        why={(line) => `?${offerAddress(offer)}&at=why&why=${line.functionId}/${line.situationId}`}
      />
    );
  if (id === "why" && why) return <WhyNot why={why} />;
  if (id === "needs") return <NeedsList {...offer} tryFirst={selected.tryFirst} />;
  if (id === "sign") return <SignOffer offer={offer} signed={signed} signature={signature} confirmed={confirmed} />;
  return <OfferFocus {...selected} />;
}

function WhyNotFit({ list, id }: { list: Candidate[]; id: string }) {
  const kit = list.find((c) => c.kit === id);
  return kit ? (
    <Focus kicker="Does not fit" title={kit.title}>
      <p>{kit.verdict.text}</p>
    </Focus>
  ) : null;
}
