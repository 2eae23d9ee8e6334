import { Link } from "react-router";
import { buttonLook } from "~/app/components/controls";
import { WireLook } from "~/app/components/library/wire-look";
import { Mark } from "~/app/components/marks";
import { libraryKits } from "~/app/server/fit.server";
import { person } from "~/app/server/session.server";
import { colourKey, colourMeanings } from "~/core/library/colours";
import type { Route } from "./+types/colours";

export async function loader({ context }: Route.LoaderArgs) {
  return { colours: colourMeanings(await libraryKits(person(context))) };
}

export const meta: Route.MetaFunction = () => [{ title: "Wire colours · Iteron" }];

export default function Colours({ loaderData }: Route.ComponentProps) {
  const { colours } = loaderData;
  const conflicts = colours.filter((c) => c.conflict).length;
  return (
    <main id="content" className="mx-auto max-w-[70rem] px-4 py-6">
      <div className="mb-5 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1>What wire colours mean</h1>
          <p className="max-w-prose text-quiet">
            Nothing, without the kit. {conflicts} of {colours.length} colours mean different things in different kits of
            this shop. Go by the function and the contact number.
          </p>
        </div>
        <Link to="/library" className={buttonLook("plain")}>
          Back to the library
        </Link>
      </div>
      {colours.length === 0 && <p>No kit of the library names a wire colour.</p>}
      <ul>
        {colours.map((c) => (
          <li
            key={`${c.base}/${c.tracer}`}
            id={colourKey(c)}
            className="grid scroll-mt-4 items-start target:bg-watch-ground gap-x-6 gap-y-2 border-b border-rule py-4 first:border-t sm:grid-cols-[14rem_minmax(0,1fr)]"
          >
            <div>
              <WireLook base={c.base} tracer={c.tracer} />
              <p className="mt-1 font-medium">
                {c.base}
                {c.tracer && ` with ${c.tracer} tracer`}
              </p>
              {c.conflict ? <Mark tone="stop">Means different things</Mark> : <Mark tone="none">One meaning</Mark>}
            </div>
            <ul className="space-y-2">
              {c.uses.map((u) => (
                <li key={`${u.kit} ${u.job}`}>
                  <span className="font-medium">{u.job}</span> in{" "}
                  <Link to={`/library/kit/${u.kit}`} className="underline">
                    {u.title}
                  </Link>
                  <span className="block text-sm text-quiet">{u.contact}</span>
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ul>
    </main>
  );
}
