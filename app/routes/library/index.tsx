import { Download, FilePlus2, Palette, Search, Upload } from "lucide";
import { useRef } from "react";
import { data, Form, Link, useNavigation, useSubmit } from "react-router";
import { Button, buttonLook, Section } from "~/app/components/controls";
import { Icon } from "~/app/components/icon";
import { Compared, FILE_ID } from "~/app/components/library/compared";
import { ProvenMark } from "~/app/components/library/proven";
import { Notice } from "~/app/components/marks";
import { answered, askedOrStays, unlessStayed } from "~/app/lib/stays";
import { database } from "~/app/server/db.server";
import { readForm } from "~/app/server/form.server";
import { person, requireRole } from "~/app/server/session.server";
import { CoreError } from "~/core/model/errors";
import { listDrafts } from "~/db/drafts";
import { compareImport, readImport, takeImport } from "~/db/exchange";
import { type ProfileHit, type ProfileQuery, searchProfiles } from "~/db/profiles";
import { PROFILE_KINDS } from "~/profiles/schema";
import type { Route } from "./+types/index";

const LIMIT_BYTES = 40_000_000;
export const KIND_WORDS = {
  car: "Car",
  variant: "Radio",
  kit: "Kit",
  coding: "Coding map",
  busMap: "Bus map",
} as const;
const FIELDS = ["connector", "ways", "year", "country", "screen"] as const;
const FIELD_WORDS: Record<(typeof FIELDS)[number], string> = {
  connector: "Connector family",
  ways: "Ways",
  year: "Year",
  country: "Country",
  screen: "Screen",
};

export async function loader({ request, context }: Route.LoaderArgs) {
  const account = person(context);
  const params = new URL(request.url).searchParams;
  const kind = params.get("kind") ?? "";
  const query: ProfileQuery = {
    text: (params.get("q") ?? "").slice(0, 200),
    kind: PROFILE_KINDS.find((k) => k === kind) ?? "",
    connector: "",
    ways: "",
    year: "",
    country: "",
    screen: "",
  };
  for (const field of FIELDS) query[field] = (params.get(field) ?? "").trim().slice(0, 60);
  const [found, drafts] = [
    await searchProfiles(database(), account.shopId, query),
    await listDrafts(database(), account.shopId),
  ];
  return {
    query,
    ...found,
    drafts: drafts.map(({ id, kind, title, updatedBy }) => ({ id, kind, title, updatedBy })),
    mayImport: account.role === "lead",
    mayWrite: account.role !== "read-only",
  };
}

export async function action({ request, context }: Route.ActionArgs) {
  const account = person(context);
  requireRole(account, ["lead"]);
  if (Number(request.headers.get("content-length") ?? 0) > LIMIT_BYTES)
    return data({ ok: false, message: "A profile or bundle has at most 40 MB. Split the bundle." }, { status: 413 });
  const form = await readForm(request, LIMIT_BYTES);
  const file = form.get("file");
  if (!(file instanceof File) || file.size === 0)
    return data({ ok: false, message: "Choose a profile (JSON) or a bundle (zip) first." }, { status: 400 });
  try {
    const read = readImport(new Uint8Array(await file.arrayBuffer()));
    const list = await compareImport(database(), account.shopId, read);
    const asked = form.has("take");
    // What is here already and otherwise is shown before anything is stored.
    if (!asked && list.some((p) => p.state === "differs")) return { ok: true, message: "", compared: list };
    const taken = asked ? new Set(form.getAll("take").map(String)) : new Set(list.map((p) => p.key));
    const seen = new Map(
      asked
        ? form.getAll("seen").map((s) => [String(s).replace(/ \d+$/, ""), Number(/\d+$/.exec(String(s))?.[0] ?? 0)])
        : list.map((p) => [p.key, p.ours]),
    );
    const chosen = read.profiles.filter((p) => taken.has(`${p.document}/${p.id}`));
    const heads = await database().transaction((sql) =>
      takeImport(sql, account.shopId, chosen, seen, account.name, read.photos),
    );
    if (!heads)
      return data(
        { ok: false, message: "Somebody changed one of these profiles meanwhile. Look at the differences again." },
        { status: 409 },
      );
    const fresh = heads.filter((h) => h.fresh);
    const [only] = heads;
    if (heads.length === 1 && only)
      return {
        ok: true,
        message: only.fresh
          ? `Stored “${only.title}” as version ${only.version}. Jobs keep the version they were planned with.`
          : `“${only.title}” is already stored as version ${only.version}.`,
      };
    return {
      ok: true,
      message: `${fresh.length} of ${heads.length} profiles were new and are stored. Jobs keep the versions they were planned with.`,
    };
  } catch (error) {
    if (error instanceof CoreError)
      return data({ ok: false, message: `${error.where}: ${error.problem} ${error.remedy}` }, { status: 422 });
    throw error;
  }
}

export const meta: Route.MetaFunction = () => [{ title: "Library · Iteron" }];

/** What was typed stays when the server cannot take it now. */
export const clientAction = ({ serverAction }: Route.ClientActionArgs) => askedOrStays(serverAction);
export const shouldRevalidate = unlessStayed;

export default function Library({ loaderData, ...page }: Route.ComponentProps) {
  const actionData = answered(page.actionData);
  const { hits, total, drafts, mayWrite } = loaderData;
  const compared = actionData && "compared" in actionData ? actionData.compared : null;
  return (
    <main id="content" className="mx-auto max-w-[88rem] px-4 py-6">
      <div className="mb-5 flex flex-wrap items-end justify-between gap-4">
        <div>
          <h1>Library</h1>
          <p className="max-w-prose text-quiet">
            What the shop knows of cars, radios and kits. Every answer of a job is computed from these documents.
          </p>
        </div>
        {mayWrite && (
          <Link to="/library/new" className={buttonLook("next")}>
            <Icon of={FilePlus2} size={18} /> Enter a new one
          </Link>
        )}
      </div>
      {compared && <Compared key={compared.map((p) => p.key).join()} list={compared} />}
      {actionData && !compared && (
        <div className="mb-6">
          <Notice
            tone={actionData.ok ? "good" : "stop"}
            title={actionData.ok ? "Imported" : "Not imported; nothing was changed"}
            live
          >
            <p>{actionData.message}</p>
          </Notice>
        </div>
      )}
      <SearchForm query={loaderData.query} />
      <div className="mt-5 grid gap-x-10 lg:grid-cols-[minmax(0,1fr)_19rem]">
        <section aria-label="Found profiles" aria-live="polite">
          <p className="mb-1 text-sm text-quiet">
            <span className="num">{total}</span> {total === 1 ? "profile" : "profiles"}
            {total > hits.length && `, the first ${hits.length} shown; type more to narrow it down`}
          </p>
          {hits.length === 0 && (
            <p className="border-t border-rule py-4">
              Nothing has all of these words. Take one away, or enter a new profile from its leaflet.
            </p>
          )}
          <ul>
            {hits.map((h) => (
              <Hit key={h.id} hit={h} />
            ))}
          </ul>
        </section>
        <aside className="mt-8 lg:mt-0">
          {drafts.length > 0 && (
            <Section title="Drafts" id="drafts">
              <ul className="space-y-1">
                {drafts.map((d) => (
                  <li key={d.id}>
                    <Link to={`/library/drafts/${d.id}`} className="flex min-h-11 flex-col justify-center">
                      <span className="font-medium underline">{d.title || "without a name"}</span>
                      <span className="text-sm text-quiet">
                        {KIND_WORDS[d.kind]}, {d.updatedBy}
                      </span>
                    </Link>
                  </li>
                ))}
              </ul>
            </Section>
          )}
          <Section title="Take along, bring in" id="exchange">
            <div className="space-y-3">
              {loaderData.mayImport && <ImportForm />}
              <p>
                <a href="/library/bundle.zip" download className={buttonLook("plain")}>
                  <Icon of={Download} size={18} /> All as one zip
                </a>
              </p>
              <p>
                <Link to="/library/colours" className={buttonLook("plain")}>
                  <Icon of={Palette} size={18} /> What colours mean
                </Link>
              </p>
              <p>
                <a href="/library/schema.json" className="underline">
                  JSON Schema of the documents
                </a>
              </p>
            </div>
          </Section>
        </aside>
      </div>
    </main>
  );
}

/** Searches as it is typed; works as a plain form too. */
function SearchForm({ query }: { query: ProfileQuery }) {
  const submit = useSubmit();
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const narrowed = FIELDS.some((f) => query[f] !== "");
  return (
    <Form
      role="search"
      className="space-y-3"
      onChange={(e) => {
        const form = e.currentTarget;
        clearTimeout(timer.current);
        timer.current = setTimeout(() => submit(form, { replace: true, preventScrollReset: true }), 120);
      }}
    >
      <div className="grid gap-3 sm:grid-cols-[minmax(0,1fr)_12rem_auto]">
        <label className="block">
          <span className="block font-medium">Search</span>
          <input
            type="search"
            name="q"
            defaultValue={query.text}
            className="field mt-1"
            placeholder="maker, model, part, connector, kind of work"
            autoComplete="off"
          />
        </label>
        <label className="block">
          <span className="block font-medium">Kind</span>
          <select name="kind" defaultValue={query.kind} className="field mt-1">
            <option value="">All</option>
            <option value="car">Cars</option>
            <option value="variant">Radios</option>
            <option value="kit">Kits</option>
          </select>
        </label>
        <noscript>
          <Button type="submit">
            <Icon of={Search} size={18} /> Search
          </Button>
        </noscript>
      </div>
      <details open={narrowed}>
        <summary className="min-h-11 cursor-pointer py-2.5">Narrow by connector, ways, year, country, screen</summary>
        <div className="grid gap-3 sm:grid-cols-5">
          {FIELDS.map((f) => (
            <label key={f} className="block">
              <span className="block text-sm">{FIELD_WORDS[f]}</span>
              <input name={f} defaultValue={query[f]} className="field mt-1" autoComplete="off" />
            </label>
          ))}
        </div>
      </details>
    </Form>
  );
}

function Hit({ hit }: { hit: ProfileHit }) {
  return (
    <li className="border-b border-rule first:border-t">
      <Link
        to={`/library/${hit.kind}/${hit.slug}`}
        className="grid gap-x-5 gap-y-1 px-2 py-3 hover:bg-raised sm:grid-cols-[4.5rem_minmax(0,1fr)_auto]"
      >
        <span className="text-quiet">{KIND_WORDS[hit.kind]}</span>
        <span>
          <span className="block font-medium">{hit.title}</span>
          <span className="block text-sm text-quiet">
            <span className="num">{hit.slug}</span>, version <span className="num">{hit.version}</span>, by{" "}
            {hit.createdBy}
          </span>
        </span>
        <span className="justify-self-start">
          <ProvenMark closedJobs={hit.closedJobs} />
        </span>
      </Link>
    </li>
  );
}

function ImportForm() {
  const busy = useNavigation().state === "submitting";
  return (
    <Form method="post" encType="multipart/form-data" className="space-y-2">
      <label className="block">
        <span className="block font-medium">Profile file or bundle</span>
        <input
          id={FILE_ID}
          type="file"
          name="file"
          accept="application/json,.json,application/zip,.zip"
          className="field mt-1"
        />
      </label>
      <Button type="submit" disabled={busy}>
        <Icon of={Upload} size={18} /> {busy ? "Reading ..." : "Import"}
      </Button>
    </Form>
  );
}
