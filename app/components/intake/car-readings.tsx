import { format, parseISO } from "date-fns";
import { Binary, ScanLine } from "lucide";
import { useEffect, useRef } from "react";
import { useFetcher, useParams } from "react-router";
import type { loader as scanLoader } from "~/app/routes/jobs/scan";
import { readVersion } from "~/core/fit/version";
import { byModule, readFaultCodes } from "~/core/intake/fault-codes";
import { Button } from "../controls";
import { Icon } from "../icon";
import { Mark } from "../marks";

/** What was understood of the firmware text, while it is typed. */
export function FirmwareRead({ text, written, versions }: { text: string; written: string[]; versions: string[] }) {
  if (text.trim() === "" || (written.length === 0 && versions.length === 0)) return null;
  const version = readVersion(text, written, versions);
  return (
    <p className="-mt-2 flex flex-wrap items-center gap-2" aria-live="polite">
      {version ? (
        <>
          <Mark tone="good">Read</Mark> version <span className="num font-medium">{version}</span>
        </>
      ) : (
        <>
          <Mark tone="watch">Not read</Mark> This radio writes it like{" "}
          <span className="num">{written[0]?.replace("*", "...") ?? versions[0]}</span>
        </>
      )}
    </p>
  );
}

/** Fault codes as they were understood, by module; lines that were not are named. */
export function FaultList({ text }: { text: string }) {
  const { codes, problems } = readFaultCodes(text);
  if (codes.length === 0 && problems.length === 0) return null;
  return (
    <div aria-live="polite" className="-mt-1 border-l-2 border-rule pl-3">
      {byModule(codes).map((group) => (
        <div key={group.module} className="mb-2">
          <p className="text-sm font-medium">{group.module || "Module not named"}</p>
          <ul>
            {group.codes.map((c, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: the same code may stand twice
              <li key={`${c.code} ${i}`} className="flex gap-3">
                <span className="num font-medium">{c.code}</span>
                <span className="text-quiet">{c.text}</span>
              </li>
            ))}
          </ul>
        </div>
      ))}
      {problems.map((p) => (
        <p key={p.line} className="text-sm text-stop">
          Line <span className="num">{p.line}</span>, “{p.text}”: {p.problem}
        </p>
      ))}
    </div>
  );
}

/** Fills the field with what the control units said when they were scanned in Configure. */
export function TakeScan({
  scanned,
  onRead,
}: {
  scanned: { text: string; at: string } | null;
  onRead: (text: string) => void;
}) {
  if (!scanned) return null;
  return (
    <Button onClick={() => onRead(scanned.text)}>
      <Icon of={Binary} size={18} /> Take over the scan of {format(parseISO(scanned.at), "d MMM, HH:mm")}
    </Button>
  );
}

/** Fills the field with what the stand-in car answers. */
export function ReadStandIn({ onRead }: { onRead: (text: string) => void }) {
  const fetcher = useFetcher<typeof scanLoader>();
  const { job } = useParams();
  const read = useRef<string | null>(null);
  useEffect(() => {
    const text = fetcher.data?.text;
    if (text !== undefined && read.current !== text) {
      read.current = text;
      onRead(text);
    }
  }, [fetcher.data, onRead]);
  return (
    <Button
      onClick={() => {
        read.current = null;
        fetcher.load(`/jobs/${job}/scan`);
      }}
      disabled={fetcher.state !== "idle"}
    >
      <Icon of={ScanLine} size={18} /> {fetcher.state === "idle" ? "Read from the stand-in car" : "Reading ..."}
    </Button>
  );
}
