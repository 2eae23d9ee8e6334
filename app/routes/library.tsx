import { Download, Upload } from "lucide-react";
import { data, Form, useNavigation } from "react-router";
import { Button, buttonLook, Section } from "~/app/components/controls";
import { Notice } from "~/app/components/marks";
import { database } from "~/app/server/db.server";
import { person, requireRole } from "~/app/server/session.server";
import { CoreError } from "~/core/model/errors";
import { listProfiles, type ProfileHead, saveProfile } from "~/db/profiles";
import { readProfile } from "~/profiles/read";
import type { Route } from "./+types/library";

const LIMIT_BYTES = 4_000_000;
const KINDS = { car: "Cars", variant: "Radio variants", kit: "Kits" } as const;

export async function loader({ context }: Route.LoaderArgs) {
  const account = person(context);
  return { profiles: await listProfiles(database(), account.shopId), mayImport: account.role === "lead" };
}

export async function action({ request, context }: Route.ActionArgs) {
  const account = person(context);
  requireRole(account, ["lead"]);
  if (Number(request.headers.get("content-length") ?? 0) > LIMIT_BYTES)
    return data(
      { ok: false, message: "A profile has at most 4 MB. Choose the JSON file of one profile." },
      { status: 413 },
    );
  const file = (await request.formData()).get("file");
  if (!(file instanceof File) || file.size === 0)
    return data({ ok: false, message: "Choose a profile file (JSON) first." }, { status: 400 });
  try {
    const profile = readProfile(await file.text());
    const head = await database().transaction((sql) => saveProfile(sql, account.shopId, profile, account.name));
    return {
      ok: true,
      message: head.fresh
        ? `Stored “${head.title}” as version ${head.version}. Jobs keep the version they were planned with.`
        : `“${head.title}” is already stored as version ${head.version}.`,
    };
  } catch (error) {
    if (error instanceof CoreError)
      return data({ ok: false, message: `${error.place}: ${error.problem} ${error.remedy}` }, { status: 422 });
    throw error;
  }
}

export const meta: Route.MetaFunction = () => [{ title: "Library · Iteron" }];

export default function Library({ loaderData, actionData }: Route.ComponentProps) {
  const busy = useNavigation().state === "submitting";
  return (
    <main id="content" className="mx-auto max-w-[88rem] px-4 py-6">
      <h1>Library</h1>
      <p className="mb-6 max-w-prose text-quiet">
        What the shop knows of cars, their radios and kits. Every answer of a job is computed from these documents.
      </p>
      {actionData && (
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
      {loaderData.mayImport && (
        <Form method="post" encType="multipart/form-data" className="mb-6 flex flex-wrap items-end gap-3">
          <label className="block">
            <span className="block font-medium">Profile file</span>
            <input type="file" name="file" accept="application/json,.json" className="field mt-1" />
          </label>
          <Button type="submit" disabled={busy}>
            <Upload size={18} aria-hidden="true" /> {busy ? "Reading ..." : "Import profile"}
          </Button>
        </Form>
      )}
      {(Object.keys(KINDS) as (keyof typeof KINDS)[]).map((kind) => (
        <Section key={kind} title={KINDS[kind]} id={`kind-${kind}`}>
          <Profiles profiles={loaderData.profiles.filter((p) => p.kind === kind)} />
        </Section>
      ))}
    </main>
  );
}

function Profiles({ profiles }: { profiles: ProfileHead[] }) {
  if (profiles.length === 0) return <p className="text-quiet">None yet.</p>;
  return (
    <ul>
      {profiles.map((p) => (
        <li key={p.id} className="flex flex-wrap items-center justify-between gap-3 border-b border-rule py-2">
          <span>
            <span className="font-medium">{p.title}</span>
            <span className="block text-sm text-quiet">
              <span className="num">{p.slug}</span>, version <span className="num">{p.version}</span>, by {p.createdBy}
            </span>
          </span>
          <a className={buttonLook("plain")} href={`/library/${p.id}.json`} download>
            <Download size={18} aria-hidden="true" /> Export
          </a>
        </li>
      ))}
    </ul>
  );
}
