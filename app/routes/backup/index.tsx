import { format } from "date-fns";
import { Download, FileSearch, ShieldCheck } from "lucide";
import { useRef, useState } from "react";
import { useRevalidator } from "react-router";
import { Button, buttonLook, Section } from "~/app/components/controls";
import { Icon } from "~/app/components/icon";
import { Mark, Notice } from "~/app/components/marks";
import { shopBackups } from "~/app/server/backup.server";
import { person, requireRole } from "~/app/server/session.server";
import type { Route } from "./+types/index";
import type { BackupChecked } from "./check";
import type { BackupNews } from "./make";

export async function loader({ context }: Route.LoaderArgs) {
  const account = person(context);
  requireRole(account, ["lead"]);
  return { shop: account.shopName, backups: await shopBackups(account.shopId) };
}

export const meta: Route.MetaFunction = () => [{ title: "Backup · Iteron" }];

/** The lead makes a copy of all that the shop has, and takes it elsewhere. */
export default function Backup({ loaderData: { shop, backups } }: Route.ComponentProps) {
  const { share, message, make, stop } = useBackup();
  return (
    <main id="content" className="mx-auto max-w-3xl px-4 py-6">
      <h1>Backup</h1>
      <p className="text-quiet">
        All jobs, photos, logs and documents of {shop}, as they are at one moment. Everybody can go on working.
      </p>
      <div className="mt-6 mb-8" aria-live="polite">
        {share === null ? (
          <Button look={backups.length === 0 ? "next" : "plain"} onClick={make}>
            <Icon of={ShieldCheck} size={18} /> Back up now
          </Button>
        ) : (
          <div className="flex flex-wrap items-center gap-4">
            <progress className="h-3 min-w-60 flex-1" value={share} max={1} aria-label="Backing up" />
            <span className="num w-14 text-right">{Math.round(100 * share)} %</span>
            <Button onClick={stop}>Stop</Button>
          </div>
        )}
        {message && (
          <div className="mt-4">
            <Notice tone="stop" title={message} live />
          </div>
        )}
      </div>
      <Section title="On the server" id="backups" aside="the last three are kept">
        {backups.length === 0 ? (
          <p className="text-quiet">No backup was made here yet.</p>
        ) : (
          <ul>
            {backups.map((b, i) => (
              <li key={b.name} className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule py-2">
                <span className="flex-1">
                  {format(b.made, "d MMM yyyy, HH:mm")} <span className="num text-quiet">{megabytes(b.bytes)}</span>{" "}
                  <Mark tone="good">Read to its end</Mark>
                </span>
                <a href={`/backup/${b.name}`} download className={buttonLook(i === 0 ? "next" : "plain")}>
                  <Icon of={Download} size={18} /> Save it elsewhere
                </a>
              </li>
            ))}
          </ul>
        )}
      </Section>
      <Kept />
      <p className="mt-6 text-quiet">
        A copy on the same machine is lost with it. It is brought back on the machine by{" "}
        <code className="num whitespace-nowrap">./iteron restore FILE</code>, beside the present data or in their place.
      </p>
    </main>
  );
}

/** A copy that was saved elsewhere is read to its end, so that nobody finds out in need that it is none. */
function Kept() {
  const { share, found, check, stop } = useCheck();
  return (
    <Section title="A copy you have kept" id="kept" aside="read to its end; nothing of it stays here">
      {share === null ? (
        <label className={`${buttonLook("plain")} cursor-pointer focus-within:outline-3 focus-within:outline-accent`}>
          <Icon of={FileSearch} size={18} /> Check a copy
          <input
            type="file"
            accept=".backup"
            className="sr-only"
            onChange={(e) => {
              const [file] = e.currentTarget.files ?? [];
              if (file) check(file);
              e.currentTarget.value = "";
            }}
          />
        </label>
      ) : (
        <div className="flex flex-wrap items-center gap-4">
          <progress className="h-3 min-w-60 flex-1" value={share} max={1} aria-label="Sending the copy" />
          <span className="num w-14 text-right">{share < 1 ? `${Math.round(100 * share)} %` : "reading"}</span>
          <Button onClick={stop}>Stop</Button>
        </div>
      )}
      {found && (
        <div className="mt-4">
          <Notice tone={!found.ok ? "stop" : found.ofThisShop ? "good" : "watch"} title={titleOf(found)} live>
            <p>
              {found.ok ? "It was read to its end and its checksum is right. Nothing of it stays here." : found.message}
            </p>
          </Notice>
        </div>
      )}
    </Section>
  );
}

function titleOf(found: BackupChecked): string {
  if (!found.ok) return found.unread ? "Not checked" : "Not to be relied on";
  const of = format(new Date(found.made), "d MMM yyyy, HH:mm");
  return found.ofThisShop ? `Whole: this shop as it was on ${of}` : `Whole, but of another shop: ${of}`;
}

/** A copy that is being sent and read; `share` is what has been sent of it. */
function useCheck() {
  const [share, setShare] = useState<number | null>(null);
  const [found, setFound] = useState<BackupChecked | null>(null);
  const running = useRef<XMLHttpRequest | null>(null);
  const end = (result: BackupChecked | null) => {
    setFound(result);
    setShare(null);
  };
  return {
    share,
    found,
    stop: () => running.current?.abort(),
    check(file: File) {
      setFound(null);
      setShare(0);
      // What was sent of a body is told by this interface alone.
      const ask = new XMLHttpRequest();
      running.current = ask;
      ask.upload.onprogress = (e) => setShare(e.loaded / e.total);
      ask.onabort = () => end(null);
      ask.onerror = () =>
        end({ ok: false, unread: true, message: "The connection was lost before it was read. Try again." });
      ask.onload = () => end(checked(ask));
      ask.open("POST", `/backup/check?name=${encodeURIComponent(file.name)}`);
      ask.send(file);
    },
  };
}

const WHY: Readonly<Record<number, string>> = {
  400: "The file is empty. Choose another one.",
  401: "Your session has ended. Sign in in another tab, then check it again.",
  507: "The disk of the server is nearly full. Tell whoever runs it.",
};

function checked({ status, responseText }: XMLHttpRequest): BackupChecked {
  if (status === 200 || status === 422) return JSON.parse(responseText) as BackupChecked;
  return { ok: false, unread: true, message: WHY[status] ?? `The server could not read it (${status}). Try again.` };
}

function megabytes(bytes: number): string {
  return bytes < 100_000 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;
}

/** A backup that is being made: how far it is, and what went wrong. */
function useBackup() {
  const [share, setShare] = useState<number | null>(null);
  const [message, setMessage] = useState("");
  const { revalidate } = useRevalidator();
  const running = useRef<AbortController | null>(null);
  return {
    share,
    message,
    stop: () => running.current?.abort(),
    async make() {
      setMessage("");
      setShare(0);
      running.current = new AbortController();
      try {
        for await (const news of backingUp(running.current.signal)) {
          if ("share" in news) setShare(news.share);
          else if ("message" in news) setMessage(news.message);
        }
      } catch {
        setMessage(
          running.current.signal.aborted
            ? "Stopped. Nothing is left of it."
            : "The connection was lost. Nothing is left of it; try again.",
        );
      }
      setShare(null);
      await revalidate();
    },
  };
}

/** Lines of the server as they come. @throws when it refuses or the connection is lost */
async function* backingUp(signal: AbortSignal): AsyncGenerator<BackupNews> {
  const answer = await fetch("/backup/make", { method: "POST", signal });
  if (!answer.ok || !answer.body) {
    const refused = (await answer.json().catch(() => null)) as { message?: string } | null;
    yield { message: refused?.message ?? `The server refused it (${answer.status}).` };
    return;
  }
  let rest = "";
  for await (const text of answer.body.pipeThrough(new TextDecoderStream()) as unknown as AsyncIterable<string>) {
    const lines = (rest + text).split("\n");
    rest = lines.pop() ?? "";
    for (const line of lines) yield JSON.parse(line) as BackupNews;
  }
}
