import { Link } from "react-router";
import { buttonLook, ScrollX } from "~/app/components/controls";
import { LEVEL_TONES } from "~/app/components/fit/candidates";
import { Mark, Notice, VerdictMark } from "~/app/components/marks";
import { useMoney } from "~/app/lib/money";
import { kitNamed, libraryKits, ranked } from "~/app/server/fit.server";
import { jobOf } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { hoursRange } from "~/core/fit/hours";
import type { LedgerVerdict } from "~/core/fit/ledger";
import { forOtherKit, offerOf } from "~/core/fit/offer";
import { namedWishes } from "~/core/fit/wishes";
import { isBlank } from "~/core/job/blank";
import type { Route } from "./+types/compare";

const MAX = 3;

export async function loader({ request, context }: Route.LoaderArgs) {
  const account = person(context);
  const { row, job } = await jobOf(context).load();
  const slugs = [...new Set(new URL(request.url).searchParams.getAll("kit"))].slice(0, MAX);
  const kits = await libraryKits(account);
  const list = isBlank(job.plan.documents.variant) ? [] : await ranked(account, job, kits);
  const wishes = namedWishes(kits, job.state.wishes ?? []);
  const offers = [];
  for (const slug of slugs) {
    const kit = await kitNamed(account, slug);
    offers.push(
      offerOf(
        { ...job.documents, kit },
        kit.id === job.documents.kit.id ? job.state : forOtherKit(job.state),
        list.find((c) => c.kit === slug)?.choices ?? {},
        wishes,
      ),
    );
  }
  return { job: { id: row.id, number: row.number, title: row.title }, offers, wishes };
}

export const meta: Route.MetaFunction = () => [{ title: "Compare kits · Iteron" }];

type Offers = Route.ComponentProps["loaderData"]["offers"];

export default function Compare({ loaderData }: Route.ComponentProps) {
  const { job, offers, wishes } = loaderData;
  const price = useMoney();
  const back = (
    <Link to={`/jobs/${job.id}/fit`} className={buttonLook("plain")}>
      Back to Fit
    </Link>
  );
  return (
    <main id="content" className="mx-auto max-w-[88rem] px-4 py-6">
      <div className="mb-5 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1>Kits side by side</h1>
          <p className="text-quiet">
            <span className="num">{job.number}</span> {job.title}
          </p>
        </div>
        {back}
      </div>
      {offers.length < 2 ? (
        <Notice tone="watch" title="Choose two or three kits in Fit">
          <p>Tick “Compare” beside the kits.</p>
        </Notice>
      ) : (
        <ScrollX label="Comparison">
          <table className="w-full min-w-[44rem] table-fixed">
            <thead>
              <tr className="align-bottom">
                <th scope="col" className="w-[28%] py-2 text-left">
                  <span className="sr-only">What</span>
                </th>
                {offers.map((o) => (
                  <th key={o.pin.slug} scope="col" className="py-2 pr-4 text-left">
                    <Link to={`/jobs/${job.id}/fit?kit=${o.pin.slug}`} className="text-lg underline">
                      {o.title}
                    </Link>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody className="[&_td]:border-t [&_td]:border-rule [&_td]:py-2.5 [&_td]:pr-4 [&_td]:align-top [&_th]:border-t [&_th]:border-rule [&_th]:py-2.5 [&_th]:pr-4 [&_th]:text-left [&_th]:align-top">
              <Row
                name="Verdict"
                offers={offers}
                cell={(o) => (
                  <>
                    <Mark tone={LEVEL_TONES[o.verdict.level]}>
                      {o.verdict.level === "possible"
                        ? "Fits"
                        : o.verdict.level === "conditions"
                          ? "With conditions"
                          : "Does not fit"}
                    </Mark>
                    <span className="mt-1 block text-sm">{o.verdict.text}</span>
                  </>
                )}
              />
              <Row
                name="Price of kit and parts"
                offers={offers}
                cell={(o) => <span className="num">{price(o.needs.price)}</span>}
              />
              <Row name="Time" offers={offers} cell={(o) => <span className="num">{hoursRange(o.time.whole)}</span>} />
              {rows(offers).map((r) => (
                <Row
                  key={r.id}
                  name={r.name}
                  note={wishes.some((w) => w.id === r.id) ? "wished" : r.law ? "required by law" : undefined}
                  offers={offers}
                  cell={(o) => {
                    const verdict = worst(o, r.id);
                    return verdict ? (
                      <VerdictMark verdict={verdict} />
                    ) : (
                      <span className="text-quiet">not part of it</span>
                    );
                  }}
                />
              ))}
              <Row
                name="Needed besides"
                offers={offers}
                cell={(o) => (
                  <ul className="space-y-1 text-sm">
                    {o.needs.lines
                      .filter((l) => !["material", "tool"].includes(l.kind))
                      .map((l) => (
                        <li key={l.say}>{l.say}</li>
                      ))}
                  </ul>
                )}
              />
            </tbody>
          </table>
        </ScrollX>
      )}
    </main>
  );
}

function Row({
  name,
  note,
  offers,
  cell,
}: {
  name: string;
  note?: string;
  offers: Offers;
  cell: (o: Offers[number]) => React.ReactNode;
}) {
  return (
    <tr>
      <th scope="row" className="font-medium">
        {name}
        {note && <span className="block text-sm font-normal text-quiet">{note}</span>}
      </th>
      {offers.map((o) => (
        <td key={o.pin.slug}>{cell(o)}</td>
      ))}
    </tr>
  );
}

/** Functions in which at least one kit differs from “kept”, wishes of any kit included. */
function rows(offers: Offers): { id: string; name: string; law: boolean }[] {
  const found = new Map<string, { id: string; name: string; law: boolean }>();
  for (const o of offers)
    for (const l of o.lines)
      if (l.verdict !== "kept") found.set(l.functionId, { id: l.functionId, name: l.name, law: l.who === "law" });
  return [...found.values()];
}

const ORDER: LedgerVerdict[] = ["lost", "never", "faulty", "changed", "gained", "kept"];

/** The worst verdict of a function over its situations. */
function worst(offer: Offers[number], functionId: string): LedgerVerdict | undefined {
  const own = offer.lines.filter((l) => l.functionId === functionId).map((l) => l.verdict);
  return ORDER.find((v) => own.includes(v));
}
