import { format } from "date-fns";
import { Download, PencilLine } from "lucide";
import type { ComponentProps } from "react";
import { data, Form, Link, redirect } from "react-router";
import { SignalTable } from "~/app/components/bus/signal-table";
import { Button, buttonLook, ScrollX, Section } from "~/app/components/controls";
import { Icon } from "~/app/components/icon";
import { CodedUnits } from "~/app/components/library/coded-units";
import { DifferenceList } from "~/app/components/library/difference-list";
import { PartPhotos } from "~/app/components/library/part-photos";
import { ProvenMark } from "~/app/components/library/proven";
import { TryOut } from "~/app/components/library/try-out";
import { Mark } from "~/app/components/marks";
import { askedOrStays, unlessStayed } from "~/app/lib/stays";
import { useProfileCheck } from "~/app/lib/use-profile-check";
import { database } from "~/app/server/db.server";
import { readForm } from "~/app/server/form.server";
import { laidOutSoon } from "~/app/server/layout.server";
import { type Reference, referenceCars } from "~/app/server/library.server";
import { person, requireRole, WRITERS } from "~/app/server/session.server";
import { differences } from "~/core/library/differences";
import { figureWords } from "~/core/model/figures";
import { shortContact, spanWords, waysWords } from "~/core/model/labels";
import { recallOr } from "~/db/cache";
import { createDraft } from "~/db/drafts";
import { newId } from "~/db/ids";
import { profileByPin, searchProfiles, takeVersion, versionsOf } from "~/db/profiles";
import { PROFILE_KINDS, type Profile, type ProfileKind, type SystemProfile } from "~/profiles/schema";
import { type ProfileCheck, tryDocument } from "~/profiles/try-document";
import type { Route } from "./+types/profile";

function kindOf(text: string): ProfileKind {
  const kind = PROFILE_KINDS.find((k) => k === text);
  if (kind) return kind;
  throw data("There is no such page in the library.", { status: 404 });
}

async function load(shopId: string, kind: ProfileKind, slug: string, version?: number): Promise<Profile> {
  const found = await profileByPin(database(), shopId, kind, slug, version);
  if (!found) throw data("There is no such profile in the library of your shop.", { status: 404 });
  return found.profile;
}

/** How a version of a document stands on versions of car and radio, which never changes. */
function triedOn(shopId: string, profile: Profile, reference: Reference | null): ProfileCheck {
  const { car = null, variant = null } = reference ?? {};
  const named = [profile, car, variant].map((d) => (d ? `${d.document} ${d.id} ${d.version}` : "none"));
  return recallOr("document", `tried ${shopId} ${named.join(" ")}`, CHECK_KB, () => tryDocument(profile, car, variant));
}

/** About what a check takes in memory. */
const CHECK_KB = 32;

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const account = person(context);
  const kind = kindOf(params.kind);
  const asked = Number(new URL(request.url).searchParams.get("version") ?? 0);
  const versions = await versionsOf(database(), account.shopId, kind, params.slug);
  const profile = await load(account.shopId, kind, params.slug, asked > 0 ? asked : undefined);
  const row = versions.find((v) => v.version === profile.version);
  const before = versions.find((v) => v.version < profile.version);
  const { hits } = await searchProfiles(database(), account.shopId, {
    text: params.slug,
    kind,
    connector: "",
    ways: "",
    year: "",
    country: "",
    screen: "",
  });
  const reference = await referenceCars(account, profile);
  const check = triedOn(account.shopId, profile, reference);
  return {
    profile,
    check,
    drawing: check.graph && (await laidOutSoon(check.graph)),
    rowId: row?.id ?? "",
    versions: versions.map(({ version, createdBy, createdAt }) => ({ version, createdBy, createdAt })),
    before: before?.version ?? null,
    differences: before ? differences(await load(account.shopId, kind, params.slug, before.version), profile) : [],
    closedJobs: hits.find((h) => h.slug === params.slug)?.closedJobs ?? 0,
    reference,
    mayWrite: WRITERS.includes(account.role),
    /** Version that new jobs take. */
    taken: (await load(account.shopId, kind, params.slug)).version,
    mayTake: account.role === "lead",
    // Identifiers of the drafts that the two buttons would make: pressed twice, it is one draft.
    drafts: { edit: newId(), copy: newId() },
  };
}

/** Opens a draft: a new version of this profile, or a copy under another name. */
export async function action({ request, params, context }: Route.ActionArgs) {
  const account = person(context);
  requireRole(account, WRITERS);
  const form = await readForm(request);
  if (form.get("what") === "take") {
    requireRole(account, ["lead"]);
    const pin = { kind: kindOf(params.kind), slug: params.slug, version: Number(form.get("version")) };
    if (!(await takeVersion(database(), account.shopId, pin)))
      throw data("There is no such version in the library of your shop.", { status: 404 });
    return redirect(`/library/${pin.kind}/${pin.slug}`);
  }
  const profile = await load(account.shopId, kindOf(params.kind), params.slug);
  const copy = form.get("what") === "copy";
  const document = copy
    ? { ...profile, id: `${profile.id}-copy`, title: `${profile.title} (copy)`, version: 1 }
    : profile;
  const id = String(form.get("draft") ?? "");
  if (!/^[0-9a-f-]{36}$/.test(id)) throw data("The form was not complete. Load the page again.", { status: 400 });
  await createDraft(database(), account.shopId, {
    id,
    kind: profile.document,
    title: document.title,
    document: JSON.stringify(document),
    by: account.name,
  });
  const mend = form.get("mend");
  return redirect(`/library/drafts/${id}${mend ? `?mend=${encodeURIComponent(String(mend))}` : ""}`);
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.profile.title ?? "Profile"} · Iteron` },
];

/** What was typed stays when the server cannot take it now. */
export const clientAction = ({ serverAction }: Route.ClientActionArgs) => askedOrStays(serverAction);
export const shouldRevalidate = unlessStayed;

function Tried({ check, ...props }: Omit<ComponentProps<typeof TryOut>, "checked"> & { check: ProfileCheck }) {
  const { document, reference } = props;
  const checked = useProfileCheck(document, reference?.car ?? null, reference?.variant ?? null, check);
  return <TryOut {...props} checked={checked} />;
}

export default function ProfilePage({ loaderData }: Route.ComponentProps) {
  const { profile, versions, before, closedJobs, mayWrite, taken, mayTake } = loaderData;
  return (
    <main id="content" className="mx-auto max-w-[88rem] px-4 py-6">
      <p>
        <Link to="/library" className="underline">
          Library
        </Link>
      </p>
      <div className="mt-1 mb-5 flex flex-wrap items-end justify-between gap-4">
        <div>
          <h1>{profile.title}</h1>
          <p className="text-quiet">
            {profile.document === "kit" ? `${profile.work} · ${profile.maker} · ` : ""}
            <span className="num">{profile.id}</span>, version <span className="num">{profile.version}</span>.{" "}
            {profile.sourceNote}
          </p>
          <p className="mt-1">
            <ProvenMark closedJobs={closedJobs} />
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          {mayWrite && (
            <OpenDraft what="edit" draft={loaderData.drafts.edit}>
              Edit
            </OpenDraft>
          )}
          {mayWrite && (
            <OpenDraft what="copy" draft={loaderData.drafts.copy}>
              Copy
            </OpenDraft>
          )}
          <a className={buttonLook("plain")} href={`/library/${loaderData.rowId}.json`} download>
            <Icon of={Download} size={18} /> Export
          </a>
          {profile.document === "coding" && (
            <a className={buttonLook("plain")} href={`/library/${loaderData.rowId}.csv`} download>
              <Icon of={Download} size={18} /> Table (CSV)
            </a>
          )}
        </div>
      </div>
      {profile.document === "coding" ? (
        <CodedUnits map={profile} />
      ) : profile.document === "busMap" ? (
        <Section title="Signals" id="signals" aside={`${profile.signals.length} known`}>
          <SignalTable signals={profile.signals} />
        </Section>
      ) : (
        <>
          <Tried
            key={`${profile.id} ${profile.version}`}
            document={profile}
            reference={loaderData.reference}
            check={loaderData.check}
            drawing={loaderData.drawing}
            {...(mayWrite ? { mend: (field: string) => <Mend field={field} draft={loaderData.drafts.edit} /> } : {})}
          />
          <Parts profile={profile} />
          <Beside profile={profile} />
        </>
      )}
      <Section title="Versions" id="versions">
        <ul className="mb-4">
          {versions.map((v) => (
            <li key={v.version} className="flex flex-wrap items-center gap-x-4 border-b border-rule py-1.5">
              <Link
                to={`?version=${v.version}`}
                preventScrollReset
                className={`inline-flex min-h-11 items-center underline ${v.version === profile.version ? "font-semibold" : ""}`}
              >
                Version {v.version}
              </Link>
              <span className="text-quiet">
                {v.createdBy}, {format(v.createdAt, "d MMM yyyy")}
              </span>
              {v.version === profile.version && <span className="text-sm">shown</span>}
              {v.version === taken && versions.length > 1 && <Mark tone="good">New jobs take it</Mark>}
              {v.version === profile.version && v.version !== taken && mayTake && (
                <Form method="post">
                  <input type="hidden" name="what" value="take" />
                  <input type="hidden" name="version" value={v.version} />
                  <Button type="submit">Let new jobs take it</Button>
                </Form>
              )}
            </li>
          ))}
        </ul>
        {before && <DifferenceList differences={loaderData.differences} before={before} after={profile.version} />}
      </Section>
    </main>
  );
}

function OpenDraft({ what, draft, children }: { what: "edit" | "copy"; draft: string; children: string }) {
  return (
    <Form method="post">
      <input type="hidden" name="what" value={what} />
      <input type="hidden" name="draft" value={draft} />
      <Button type="submit">
        {what === "edit" && <Icon of={PencilLine} size={18} />} {children}
      </Button>
    </Form>
  );
}

/** Measures, what is watched and what is normal: what later answers rest on. */
function Beside({ profile }: { profile: SystemProfile }) {
  const figures = [
    ...(profile.document === "car" && profile.figures ? figureWords(profile.figures) : []),
    ...profile.parts.flatMap((p) => figureWords(p.figures ?? {}).map((f) => `${p.name}: ${f}`)),
  ];
  const partName = (id: string) => profile.parts.find((p) => p.id === id)?.name ?? id;
  const groups = [
    { title: "Figures", lines: figures },
    {
      title: "Watched by control units",
      lines: (profile.monitors ?? []).map((m) => `${m.code} ${m.say}, in ${partName(m.by)}`),
    },
    {
      title: "Normal, though it looks like a fault",
      lines: (profile.normal ?? []).map((n) => `${n.seen} ${n.lastsS ? `${spanWords(n.lastsS)}. ` : ""}${n.title}.`),
    },
  ].filter((g) => g.lines.length > 0);
  if (groups.length === 0) return null;
  return (
    <div className="grid gap-x-10 lg:grid-cols-3">
      {groups.map((g) => (
        <Section key={g.title} title={g.title} id={g.title.split(" ")[0]?.toLowerCase() ?? ""}>
          <ul>
            {g.lines.map((line) => (
              <li key={line} className="border-b border-rule py-1.5">
                {line}
              </li>
            ))}
          </ul>
        </Section>
      ))}
    </div>
  );
}

/** Opens a draft at the section in which a gap is mended. */
function Mend({ field, draft }: { field: string; draft: string }) {
  return (
    <Form method="post">
      <input type="hidden" name="what" value="edit" />
      <input type="hidden" name="draft" value={draft} />
      <input type="hidden" name="mend" value={field} />
      <Button type="submit" look="quiet">
        Mend
      </Button>
    </Form>
  );
}

/** Parts and plugs as a table: what one looks for when a plug is in the hand. */
function Parts({ profile }: { profile: SystemProfile }) {
  return (
    <Section title="Parts and plugs" id="parts" aside={`${profile.parts.length} parts`}>
      <ScrollX label="Parts and plugs">
        <table className="w-full min-w-[42rem]">
          <thead>
            <tr className="text-left text-sm text-quiet">
              <th scope="col" className="py-1.5 pr-4 font-normal">
                Part
              </th>
              <th scope="col" className="py-1.5 pr-4 font-normal">
                Plug
              </th>
              <th scope="col" className="py-1.5 pr-4 font-normal">
                Housing
              </th>
              <th scope="col" className="py-1.5 font-normal">
                Contacts
              </th>
            </tr>
          </thead>
          <tbody>
            {profile.parts.flatMap((part) =>
              part.ports
                .filter((p) => !p.inside)
                .map((p, i) => (
                  <tr key={`${part.id}.${p.id}`} className="border-t border-rule align-top">
                    <th scope="row" className="py-1.5 pr-4 text-left font-medium">
                      {i === 0 ? part.name : <span className="sr-only">{part.name}</span>}
                      {i === 0 && part.photos && <PartPhotos photos={part.photos} name={part.name} />}
                    </th>
                    <td className="py-1.5 pr-4">{p.label}</td>
                    <td className="py-1.5 pr-4">
                      {p.connector ? (
                        <>
                          {p.connector.family}, {waysWords(p.connector.ways)}, {p.connector.gender}
                          {p.connector.keying && `, keying ${p.connector.keying}`}
                          {p.connector.colour && `, ${p.connector.colour}`}
                          {p.connector.reversible && ", goes in both ways round"}
                        </>
                      ) : (
                        <span className="text-quiet">no plug</span>
                      )}
                    </td>
                    <td className="py-1.5 text-sm">{p.contacts.map(shortContact).join(", ")}</td>
                  </tr>
                )),
            )}
          </tbody>
        </table>
      </ScrollX>
    </Section>
  );
}
