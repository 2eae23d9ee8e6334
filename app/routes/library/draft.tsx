import { Redo2, Trash2, Undo2 } from "lucide";
import { useEffect, useRef, useState } from "react";
import { data, Form, Link, redirect, useFetcher, useSearchParams } from "react-router";
import { z } from "zod";
import { Button, Section } from "~/app/components/controls";
import { Icon } from "~/app/components/icon";
import { JsonForm } from "~/app/components/library/json-form";
import { type JsonSchema, placeInWords } from "~/app/components/library/json-schema";
import { MapPaste } from "~/app/components/library/map-paste";
import { ReferenceChoice } from "~/app/components/library/reference-choice";
import { sectionOf, sectionsOf } from "~/app/components/library/sections";
import { TryOut } from "~/app/components/library/try-out";
import { Notice } from "~/app/components/marks";
import { answered, askedOrStays, unlessStayed } from "~/app/lib/stays";
import { useHistory } from "~/app/lib/use-history";
import { useProfileCheck } from "~/app/lib/use-profile-check";
import { database } from "~/app/server/db.server";
import { readForm } from "~/app/server/form.server";
import { referenceCars, referenceNamed, referenceNames } from "~/app/server/library.server";
import { person, requireRole, WRITERS } from "~/app/server/session.server";
import type { CodingMap } from "~/core/coding/map";
import { CoreError } from "~/core/model/errors";
import { deleteDraft, draftById, saveDraft } from "~/db/drafts";
import { saveProfile } from "~/db/profiles";
import { readProfile } from "~/profiles/read";
import { busMapSchema, carSchema, codingSchema, kitSchema, variantSchema } from "~/profiles/schema";
import { upgradeDocument } from "~/profiles/upgrade";
import type { Route } from "./+types/draft";

const SCHEMAS = { car: carSchema, variant: variantSchema, kit: kitSchema, coding: codingSchema, busMap: busMapSchema };
const LIMIT = 4_000_000;
/** A document as a form writes it: percent signs make it longer. */
const FORM_LIMIT = 3 * LIMIT;

async function load(shopId: string, id: string) {
  const draft = /^[0-9a-f-]{36}$/.test(id) ? await draftById(database(), shopId, id) : null;
  if (!draft)
    throw data("There is no such draft in your shop. It may have been released or thrown away.", { status: 404 });
  return draft;
}

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const account = person(context);
  requireRole(account, WRITERS);
  const draft = await load(account.shopId, params.draft);
  const document = upgradeDocument(JSON.parse(draft.document));
  const on = new URL(request.url).searchParams.get("on");
  return {
    draft: { id: draft.id, kind: draft.kind, version: draft.version, title: draft.title },
    document,
    schema: z.toJSONSchema(SCHEMAS[draft.kind], { io: "input" }) as JsonSchema,
    reference: on ? await referenceNamed(account, on) : await referenceCars(account, document),
    names: await referenceNames(account),
  };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const account = person(context);
  requireRole(account, WRITERS);
  const draft = await load(account.shopId, params.draft);
  const form = await readForm(request, FORM_LIMIT);
  const intent = form.get("intent");
  if (intent === "discard") {
    await deleteDraft(database(), account.shopId, draft.id);
    return redirect("/library");
  }
  if (intent === "save") {
    const text = String(form.get("document") ?? "");
    if (text.length > LIMIT)
      return data({ ok: false as const, message: "A profile has at most 4 MB." }, { status: 413 });
    const title = titleOf(text);
    if (title === null)
      return data({ ok: false as const, message: "The draft is not JSON. Load the page again." }, { status: 400 });
    const saved = await saveDraft(
      database(),
      account.shopId,
      { id: draft.id, kind: draft.kind, title, document: text, by: account.name },
      Number(form.get("basedOn")),
    );
    if (saved.ok) return { ok: true as const, version: saved.version };
    const by = saved.theirs?.updatedBy ?? "Somebody";
    return data(
      {
        ok: false as const,
        message: `${by} changed this draft meanwhile. Nothing was overwritten; load the page again to see it.`,
      },
      { status: 409 },
    );
  }
  try {
    const profile = readProfile(draft.document);
    const head = await database().transaction(async (sql) => {
      const stored = await saveProfile(sql, account.shopId, profile, account.name);
      await deleteDraft(sql, account.shopId, draft.id);
      return stored;
    });
    return redirect(`/library/${head.kind}/${head.slug}`);
  } catch (error) {
    if (error instanceof CoreError)
      return data(
        { ok: false as const, message: `${error.where}: ${error.problem} The draft is kept.` },
        { status: 422 },
      );
    throw error;
  }
}

function titleOf(text: string): string | null {
  try {
    const value = JSON.parse(text) as { title?: unknown };
    return typeof value.title === "string" ? value.title : "";
  } catch {
    return null;
  }
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.draft.title ?? "Draft"} · Iteron` },
];

/** What was typed stays when the server cannot take it now. */
export const clientAction = ({ serverAction }: Route.ClientActionArgs) => askedOrStays(serverAction);
export const shouldRevalidate = unlessStayed;

export default function DraftEditor({ loaderData, actionData }: Route.ComponentProps) {
  const { draft, schema, reference, names } = loaderData;
  const { value, change, undo, redo, canUndo, canRedo } = useHistory<unknown>(loaderData.document);
  const sections = sectionsOf(draft.kind);
  const [asked] = useSearchParams();
  const [open, setOpen] = useState(sectionOf(draft.kind, asked.get("mend") ?? ""));
  // Fields keep what is half typed; after taking over they start anew.
  const [taken, setTaken] = useState(0);
  const saving = useAutosave(value, draft.version);
  const section = sections.find((s) => s.title === open) ?? sections[0];
  const properties = Object.fromEntries(
    Object.entries(schema.properties ?? {}).filter(([k]) => section?.keys.includes(k)),
  );
  const required = (schema.required ?? []).filter((k) => section?.keys.includes(k));
  const checked = useProfileCheck(value, reference?.car ?? null, reference?.variant ?? null);
  const said = answered(actionData);
  const refused = said && "message" in said ? said.message : null;
  return (
    <main id="content" className="mx-auto max-w-[100rem] px-4 py-6">
      <p>
        <Link to="/library" className="underline">
          Library
        </Link>
      </p>
      <div className="mt-1 mb-4 flex flex-wrap items-end justify-between gap-4">
        <div>
          <h1>{(value as { title?: string }).title || "Without a name"}</h1>
          <p className="text-quiet" aria-live="polite">
            Draft, {saving.text}
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          <Button onClick={undo} disabled={!canUndo}>
            <Icon of={Undo2} size={18} /> Undo
          </Button>
          <Button onClick={redo} disabled={!canRedo}>
            <Icon of={Redo2} size={18} /> Redo
          </Button>
          <Form method="post">
            <input type="hidden" name="intent" value="discard" />
            <Button type="submit">
              <Icon of={Trash2} size={18} /> Throw away
            </Button>
          </Form>
          <Form method="post">
            <input type="hidden" name="intent" value="release" />
            <Button type="submit" look="next" disabled={!saving.saved}>
              Put into the library
            </Button>
          </Form>
        </div>
      </div>
      {(saving.refused ?? refused) && (
        <div className="mb-4">
          <Notice tone="stop" title="Not taken" live>
            <p>{saving.refused ?? refused}</p>
          </Notice>
        </div>
      )}
      <div className="grid grid-cols-[minmax(0,1fr)] gap-x-10 lg:grid-cols-[minmax(0,1fr)_minmax(0,30rem)]">
        <div>
          <nav aria-label="Sections of the document" className="mb-3 flex flex-wrap border-b border-rule">
            {sections.map((s) => (
              <button
                key={s.title}
                type="button"
                aria-current={s.title === open}
                onClick={() => setOpen(s.title)}
                className={`min-h-11 whitespace-nowrap border-b-2 px-3 ${s.title === open ? "border-ink font-medium" : "border-transparent text-quiet"}`}
              >
                {s.title}
              </button>
            ))}
          </nav>
          {draft.kind === "coding" && section?.keys.includes("units") && (
            <MapPaste
              units={(value as CodingMap).units ?? []}
              onRead={(units) => {
                change({ ...(value as CodingMap), units });
                setTaken(taken + 1);
              }}
            />
          )}
          <JsonForm
            key={`${open} ${taken}`}
            schema={{ ...schema, properties, required }}
            value={value}
            onChange={change}
            hidden={["document", "version"]}
            problems={checked.check?.fields ?? []}
          />
        </div>
        <div className="mt-8 lg:mt-0">
          <TryOut
            document={value}
            checked={checked}
            reference={reference}
            nameOfField={(path) => placeInWords(schema, value, path)}
            stacked
            mend={(field) => (
              <Button look="quiet" onClick={() => setOpen(sectionOf(draft.kind, field))}>
                Mend
              </Button>
            )}
            choose={<ReferenceChoice names={names} value={reference?.variant?.id ?? ""} />}
          />
        </div>
      </div>
      <Section title="As JSON" id="json">
        <details>
          <summary className="min-h-11 cursor-pointer py-2.5">Show the document as it will be stored</summary>
          <pre className="num max-h-96 overflow-auto border border-rule bg-raised p-3 text-sm">
            {JSON.stringify(value, null, 2)}
          </pre>
        </details>
      </Section>
    </main>
  );
}

const WAIT_MS = 700;

/** Saves a moment after the last change, over the version this page last saw. */
function useAutosave(value: unknown, version: number) {
  const fetcher = useFetcher<typeof clientAction>();
  const [saved, setSaved] = useState(() => JSON.stringify(value));
  const sent = useRef("");
  const basedOn = useRef(version);
  const text = JSON.stringify(value);
  const answer = answered(fetcher.data);
  useEffect(() => {
    if (answer && "ok" in answer && answer.ok) {
      basedOn.current = answer.version;
      setSaved(sent.current);
    }
  }, [answer]);
  const refused = answer && "ok" in answer && !answer.ok ? answer.message : null;
  useEffect(() => {
    if (text === saved || refused || fetcher.state !== "idle") return;
    const timer = setTimeout(() => {
      sent.current = text;
      fetcher.submit({ intent: "save", document: text, basedOn: String(basedOn.current) }, { method: "post" });
    }, WAIT_MS);
    return () => clearTimeout(timer);
  }, [text, saved, refused, fetcher]);
  const isSaved = text === saved;
  return {
    saved: isSaved,
    refused,
    text: refused ? "not saved" : isSaved ? "saved" : fetcher.state === "idle" ? "changed" : "saving ...",
  };
}
