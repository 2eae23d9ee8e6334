import { useState } from "react";
import { data, Form, Link, redirect, useNavigation } from "react-router";
import { z } from "zod";
import { Button, buttonLook, Section } from "~/app/components/controls";
import { JsonForm } from "~/app/components/library/json-form";
import { type JsonSchema, placeInWords } from "~/app/components/library/json-schema";
import { LeafletPaste } from "~/app/components/library/leaflet-paste";
import { ReferenceChoice } from "~/app/components/library/reference-choice";
import { ToProblem } from "~/app/components/library/to-problem";
import { TryOut } from "~/app/components/library/try-out";
import { Notice } from "~/app/components/marks";
import { answered, askedOrStays, unlessStayed } from "~/app/lib/stays";
import { useFollows } from "~/app/lib/use-follows";
import { useProfileCheck } from "~/app/lib/use-profile-check";
import { database } from "~/app/server/db.server";
import { readForm } from "~/app/server/form.server";
import { newestCars, referenceCars, referenceNamed, referenceNames } from "~/app/server/library.server";
import { person, requireRole, WRITERS } from "~/app/server/session.server";
import type { CodingMap } from "~/core/coding/map";
import { wordsOf } from "~/core/library/search-words";
import { CoreError } from "~/core/model/errors";
import { createDraft } from "~/db/drafts";
import { newId } from "~/db/ids";
import { buildLeaflet, type Leaflet, leafletSchema } from "~/profiles/archetypes";
import { notAsked } from "~/profiles/archetypes/asked";
import { shippedLeaflets } from "~/profiles/library";
import { checkProfile, readLeaflet } from "~/profiles/read";
import type { Route } from "./+types/new";

/** A leaflet to start from. */
interface Start {
  id: string;
  archetype: string;
  title: string;
  work: string;
}

async function starts(account: Parameters<typeof newestCars>[0]): Promise<{ start: Start; leaflet: Leaflet }[]> {
  const cars = await newestCars(account);
  return shippedLeaflets().flatMap((leaflet) => {
    if (leaflet.archetype === "variant" && !cars.some((c) => c.id === leaflet.car)) return [];
    const built = buildLeaflet(leaflet, cars);
    const work = built.document === "kit" ? built.work : built.document === "car" ? "Car" : "Radio variant";
    return [{ start: { id: leaflet.id, archetype: leaflet.archetype, title: built.title, work }, leaflet }];
  });
}

export async function loader({ request, context }: Route.LoaderArgs) {
  const account = person(context);
  requireRole(account, WRITERS);
  const params = new URL(request.url).searchParams;
  const all = await starts(account);
  const from = all.find((s) => s.start.id === params.get("from"));
  const cars = await newestCars(account);
  if (!from)
    return {
      starts: all.map((s) => s.start),
      cars: cars.map((c) => ({ id: c.id, title: c.title })),
      draft: newId(),
      chosen: null,
    };
  const schema = leafletSchema(from.leaflet.archetype);
  const on = params.get("on");
  return {
    starts: [],
    cars: [],
    draft: "",
    chosen: {
      ...from.start,
      leaflet: from.leaflet,
      schema: schema ? (z.toJSONSchema(schema, { io: "input" }) as JsonSchema) : {},
      reference: on
        ? await referenceNamed(account, on)
        : await referenceCars(account, buildLeaflet(from.leaflet, cars)),
      names: await referenceNames(account),
      draft: newId(),
    },
  };
}

/** Builds the document of the leaflet and opens it as a draft. */
export async function action({ request, context }: Route.ActionArgs) {
  const account = person(context);
  requireRole(account, WRITERS);
  const form = await readForm(request);
  const draft = String(form.get("draft") ?? "");
  if (!/^[0-9a-f-]{36}$/.test(draft))
    return data({ message: "The form was not complete. Load the page again." }, { status: 400 });
  const cars = await newestCars(account);
  const mapOf = form.get("mapOf");
  if (mapOf !== null) {
    const car = cars.find((c) => c.id === mapOf);
    if (!car) return data({ message: "Choose the car that the coding map is about." }, { status: 400 });
    const map = emptyMap(car);
    await createDraft(database(), account.shopId, {
      id: draft,
      kind: "coding",
      title: map.title,
      document: JSON.stringify(map),
      by: account.name,
    });
    return redirect(`/library/drafts/${draft}`);
  }
  try {
    const leaflet = readLeaflet(String(form.get("leaflet") ?? ""));
    const document = checkProfile(buildLeaflet(leaflet, cars));
    await createDraft(database(), account.shopId, {
      id: draft,
      kind: document.document,
      title: document.title,
      document: JSON.stringify(document),
      by: account.name,
    });
    return redirect(`/library/drafts/${draft}`);
  } catch (error) {
    if (error instanceof CoreError)
      return data({ message: `${error.where}: ${error.problem} ${error.remedy}` }, { status: 422 });
    throw error;
  }
}

/** A coding map in which nothing stands yet. */
function emptyMap({ id, title }: { id: string; title: string }): CodingMap {
  return {
    document: "coding",
    id: `${id}-words`,
    version: 1,
    title: `${title}: coded words`,
    sourceNote: "From its leaflet.",
    car: id,
    units: [],
  };
}

export const meta: Route.MetaFunction = () => [{ title: "Enter a new one · Iteron" }];

/** What was typed stays when the server cannot take it now. */
export const clientAction = ({ serverAction }: Route.ClientActionArgs) => askedOrStays(serverAction);
export const shouldRevalidate = unlessStayed;

export default function New({ loaderData, actionData }: Route.ComponentProps) {
  const said = answered(actionData);
  const { chosen } = loaderData;
  return (
    <main id="content" className="mx-auto max-w-[88rem] px-4 py-6">
      <p>
        <Link to={chosen ? "/library/new" : "/library"} className="underline">
          {chosen ? "Another starting point" : "Library"}
        </Link>
      </p>
      <h1 className="mt-1">{chosen ? `New, like ${chosen.title}` : "Enter a new one"}</h1>
      {chosen ? (
        <LeafletForm key={chosen.id} chosen={chosen} message={said?.message ?? null} />
      ) : (
        <>
          {said?.message && (
            <Notice tone="stop" title="Not taken" live>
              <p>{said.message}</p>
            </Notice>
          )}
          <StartList starts={loaderData.starts} />
          <NewMap cars={loaderData.cars} draft={loaderData.draft} />
        </>
      )}
    </main>
  );
}

/** The starting points that are nearest to what is typed. */
function StartList({ starts: all }: { starts: Start[] }) {
  const [text, setText] = useState("");
  const words = wordsOf(text);
  const shown = all
    .map((s) => ({
      s,
      score: words.filter((w) => wordsOf(`${s.work} ${s.title} ${s.id}`).some((x) => x.startsWith(w))).length,
    }))
    .filter((x) => words.length === 0 || x.score > 0)
    .sort((a, b) => b.score - a.score);
  const works = [...new Set(shown.map((x) => x.s.work))];
  return (
    <>
      <p className="max-w-prose text-quiet">
        Choose what comes nearest to the leaflet in your hand. Its answers stand in the form; change what differs. To
        start from one of your own profiles, open it in the library and press “Copy”.
      </p>
      <label className="mt-4 block max-w-xl">
        <span className="block font-medium">What kind of work is it?</span>
        <input
          type="search"
          className="field mt-1"
          value={text}
          placeholder="for example: board, ring, camera, socket, hands-free, car"
          onChange={(e) => setText(e.currentTarget.value)}
        />
      </label>
      {shown.length === 0 && (
        <p className="mt-4">No starting point has these words. Clear the field to see all kinds of work.</p>
      )}
      <div className="mt-5 grid gap-x-10 md:grid-cols-2">
        {works.map((work) => (
          <Section key={work} title={work} id={`work-${work.replace(/\W+/g, "-")}`}>
            <ul>
              {shown
                .filter((x) => x.s.work === work)
                .map(({ s }) => (
                  <li key={s.id}>
                    <Link to={`?from=${s.id}`} className="inline-flex min-h-11 items-center underline">
                      {s.title}
                    </Link>
                  </li>
                ))}
            </ul>
          </Section>
        ))}
      </div>
    </>
  );
}

/** A coding map begins with its car; tables and leaflets are pasted into the draft. */
function NewMap({ cars, draft }: { cars: { id: string; title: string }[]; draft: string }) {
  return (
    <Section title="Coding map" id="coding-map">
      <Form method="post" className="flex flex-wrap items-end gap-3">
        <input type="hidden" name="draft" value={draft} />
        <label>
          <span className="block text-sm">Which car</span>
          <select name="mapOf" className="field" required defaultValue="">
            <option value="">Choose ...</option>
            {cars.map((c) => (
              <option key={c.id} value={c.id}>
                {c.title}
              </option>
            ))}
          </select>
        </label>
        <Button type="submit">New coding map</Button>
      </Form>
      <p className="mt-2 max-w-prose text-sm text-quiet">
        Control units, coded words and what their bits mean. Paste a table or the lines of a leaflet in the next step.
      </p>
    </Section>
  );
}

/** A name as an identifier: small letters and digits with dashes between. */
function slugOf(name: string): string {
  return name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "");
}

type Chosen = NonNullable<Route.ComponentProps["loaderData"]["chosen"]>;

function LeafletForm({ chosen, message }: { chosen: Chosen; message: string | null }) {
  const [leaflet, setLeaflet] = useState<Record<string, unknown>>({
    ...chosen.leaflet,
    id: "",
    ...("title" in chosen.leaflet ? { title: "" } : {}),
    sourceNote: "From its leaflet.",
  });
  // Fields keep what is half typed; after taking over they start anew.
  const [taken, setTaken] = useState(0);
  const edit = (next: unknown) => {
    const value = next as Record<string, unknown>;
    // The identifier follows the name until somebody writes another one.
    const follows = leaflet.id === slugOf(String(leaflet.title ?? "")) && value.id === leaflet.id;
    setLeaflet(follows && "title" in value ? { ...value, id: slugOf(String(value.title ?? "")) } : value);
  };
  const preview = {
    ...leaflet,
    id: leaflet.id || "unnamed",
    ...("title" in leaflet ? { title: leaflet.title || "Unnamed" } : {}),
  };
  const busy = useNavigation().state !== "idle";
  const { reference } = chosen;
  const checked = useProfileCheck(preview, reference?.car ?? null, reference?.variant ?? null);
  const problems = checked.check?.fields ?? [];
  // What is wrong is shown, asked for or not.
  const unasked = notAsked(leaflet).filter((field) => !problems.some((p) => p.path.split(".")[0] === field));
  const follows = useFollows(leaflet, checked.check?.facts ?? null);
  return (
    <div className="mt-5 grid grid-cols-[minmax(0,1fr)] gap-x-10 lg:grid-cols-[minmax(0,30rem)_minmax(0,1fr)]">
      <Form method="post">
        <input type="hidden" name="draft" value={chosen.draft} />
        <input type="hidden" name="leaflet" value={JSON.stringify(leaflet)} />
        <Section title="The leaflet" id="leaflet" aside={chosen.work}>
          <LeafletPaste
            fields={Object.keys(chosen.schema.properties ?? {})}
            leaflet={leaflet}
            onTake={(next) => {
              setLeaflet(next);
              setTaken(taken + 1);
            }}
          />
          <JsonForm
            key={taken}
            schema={chosen.schema}
            value={leaflet}
            onChange={edit}
            hidden={["archetype", ...unasked]}
            problems={problems}
            follows={follows}
          />
        </Section>
        {message && (
          <Notice tone="stop" title="Not taken" live>
            <p>{message}</p>
          </Notice>
        )}
        <div className="sticky bottom-0 flex gap-2 border-t border-rule bg-paper py-3">
          <Button type="submit" look="next" className="shrink-0" disabled={busy}>
            {busy ? "Building ..." : "Build the document"}
          </Button>
          <Link to="/library/new" className={buttonLook("quiet")}>
            Cancel
          </Link>
          <ToProblem problems={problems} />
        </div>
      </Form>
      <div className="lg:sticky lg:top-4 lg:max-h-[calc(100dvh-2rem)] lg:self-start lg:overflow-y-auto">
        <TryOut
          document={preview}
          checked={checked}
          reference={reference}
          nameOfField={(path) => placeInWords(chosen.schema, preview, path)}
          stacked
          choose={
            <ReferenceChoice names={chosen.names} value={reference?.variant?.id ?? ""} keep={{ from: chosen.id }} />
          }
        />
      </div>
    </div>
  );
}
