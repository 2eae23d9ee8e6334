import { data } from "react-router";
import { Candidates } from "~/app/components/fit/candidates";
import { OfferView } from "~/app/components/fit/offer";
import { Notice } from "~/app/components/marks";
import { database } from "~/app/server/db.server";
import {
  colourWarnings,
  kitNamed,
  libraryKits,
  offeredChoices,
  ranked,
  whyNot,
  wishesOf,
} from "~/app/server/fit.server";
import { jobOf } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { followsFrom } from "~/core/fit/follows";
import { offerOf } from "~/core/fit/offer";
import { isBlank } from "~/core/job/blank";
import { resolveChoices } from "~/core/model/compose";
import { usualOptions } from "~/db/usual";
import type { Route } from "./+types/fit";

export async function loader({ request, context }: Route.LoaderArgs) {
  const account = person(context);
  const job = await jobOf(context).load();
  const { state, plan } = job;
  if (isBlank(plan.documents.variant)) return { ready: false as const };
  const search = new URL(request.url).searchParams;
  const kits = await libraryKits(account);
  const list = await ranked(account, job, kits);
  const current = isBlank(plan.documents.kit) ? null : plan.documents.kit;
  const asked = search.get("kit");
  const best = list.find((c) => c.verdict.level !== "impossible");
  const slug = asked ?? current?.id ?? best?.kit;
  if (!slug) return { ready: true as const, list, selected: null };
  const kit = current && current.id === slug ? current : await kitNamed(account, slug);
  const isCurrent = current?.id === slug;
  const usual = offeredChoices(kit, Object.entries(await usualOptions(database(), account.shopId)));
  const ranking = list.find((c) => c.kit === slug)?.choices ?? {};
  const start = isCurrent && state.choices ? state.choices : isCurrent ? usual : { ...ranking, ...usual };
  const choices = { ...start, ...offeredChoices(kit, search) };
  const names = new Map(wishesOf(kits, []).map((w) => [w.id, w.name]));
  const wishes = (state.wishes ?? []).map((id) => ({ id, name: names.get(id) ?? id }));
  const offer = job.job.once(`offer ${kit.id}@${kit.version} ${JSON.stringify([choices, wishes])}`, () =>
    offerOf({ ...plan.documents, kit }, state, choices, wishes),
  );
  const chosen = resolveChoices(kit, choices);
  const confirmed =
    isCurrent && state.choices !== null && Object.entries(chosen).every(([k, v]) => (state.choices?.[k] ?? v) === v);
  return {
    ready: true as const,
    list,
    selected: {
      offer: { ...offer, colours: colourWarnings(account, kit, kits) },
      choices: kit.choices.map((c) => ({
        ...c,
        usual: usual[c.id] ?? c.usual,
        chosen: chosen[c.id] ?? c.usual,
        options: c.options.map((o) => ({ ...o, follows: followsFrom(kit, c.id, o.id) })),
      })),
      mayMakeUsual: account.role === "lead",
      isCurrent,
      confirmed,
      signed: state.signed,
      why: whyNot(job, kit, choices, search.get("why")),
      newer: isCurrent ? (kits.find((k) => k.id === slug && k.version > kit.version)?.version ?? null) : null,
    },
    wishes,
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
