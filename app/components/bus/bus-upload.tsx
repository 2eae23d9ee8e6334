import { Upload } from "lucide-react";
import { useRef, useState } from "react";
import { useParams, useRevalidator } from "react-router";
import { BUS_FILE_LIMIT_BYTES } from "~/core/bus/limits";
import { entryId } from "~/core/job/entry-id";
import { Button, buttonLook } from "../controls";
import { useJob } from "../entry-form";
import { Notice } from "../marks";

type State =
  | { kind: "idle" }
  | { kind: "sending"; name: string; share: number }
  | { kind: "refused"; message: string }
  | { kind: "stored"; name: string };

/** Uploads a log or a DBC with progress; can be cancelled. The size is checked before a byte is sent. */
export function BusUpload() {
  const { job } = useParams();
  const { seed, readOnly } = useJob();
  const { revalidate } = useRevalidator();
  const [state, setState] = useState<State>({ kind: "idle" });
  const request = useRef<XMLHttpRequest | null>(null);

  function send(file: File) {
    if (file.size > BUS_FILE_LIMIT_BYTES) {
      setState({
        kind: "refused",
        message: `${file.name} has ${Math.round(file.size / 1e6)} MB; at most ${BUS_FILE_LIMIT_BYTES / 1e6} MB are taken. Cut the log to the minutes that matter.`,
      });
      return;
    }
    const xhr = new XMLHttpRequest();
    request.current = xhr;
    xhr.upload.onprogress = (e) =>
      setState({ kind: "sending", name: file.name, share: e.total > 0 ? e.loaded / e.total : 0 });
    xhr.onload = () => {
      if (xhr.status === 200) {
        setState({ kind: "stored", name: file.name });
        revalidate();
      } else setState({ kind: "refused", message: refusalOf(xhr) });
    };
    xhr.onerror = () => setState({ kind: "refused", message: "The connection broke. Nothing was stored; try again." });
    xhr.onabort = () => setState({ kind: "idle" });
    setState({ kind: "sending", name: file.name, share: 0 });
    const query = new URLSearchParams({
      entry: entryId(seed, `${file.name}-${file.size}-${file.lastModified}`),
      name: file.name,
    });
    xhr.open("POST", `/jobs/${job}/files?${query}`);
    xhr.setRequestHeader("Content-Type", "application/octet-stream");
    xhr.send(file);
  }

  return (
    <div className="mt-4 space-y-3">
      {state.kind === "sending" ? (
        <div className="flex flex-wrap items-center gap-3">
          <progress value={state.share} max={1} className="w-60" aria-label={`Sending ${state.name}`} />
          <span className="num">{Math.round(100 * state.share)} %</span>
          <Button onClick={() => request.current?.abort()}>Cancel</Button>
        </div>
      ) : (
        <label
          className={`${buttonLook("plain")} cursor-pointer focus-within:outline-3 focus-within:outline-accent ${readOnly ? "pointer-events-none opacity-60" : ""}`}
        >
          <Upload size={18} aria-hidden="true" /> Upload a log or a DBC
          <input
            type="file"
            accept=".log,.asc,.txt,.dbc"
            className="sr-only"
            disabled={readOnly}
            onChange={(e) => {
              const file = e.currentTarget.files?.[0];
              e.currentTarget.value = "";
              if (file) send(file);
            }}
          />
        </label>
      )}
      {state.kind === "refused" && (
        <Notice tone="stop" title="Not stored" live>
          <p>{state.message}</p>
        </Notice>
      )}
      {state.kind === "stored" && <Notice tone="good" title={`${state.name} is stored.`} live />}
    </div>
  );
}

function refusalOf(xhr: XMLHttpRequest): string {
  try {
    const { message } = JSON.parse(xhr.responseText) as { message?: string };
    if (message) return message;
  } catch {
    // The answer was a page, not our message.
  }
  return `The server refused the file (${xhr.status}).`;
}
