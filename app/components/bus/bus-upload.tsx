import { Upload } from "lucide-react";
import { useRef, useState } from "react";
import { useRevalidator } from "react-router";
import { sendBusFile } from "~/app/lib/send-bus-file";
import { BUS_FILE_ENDINGS } from "~/core/bus/file-kind";
import { LOG_FORMATS } from "~/core/bus/log";
import { Button, buttonLook } from "../controls";
import { useJob } from "../entry-form";
import { Notice } from "../marks";

type State =
  | { kind: "idle" }
  | { kind: "sending"; name: string; share: number }
  | { kind: "refused"; message: string }
  | { kind: "stored"; names: string[] };

/** Uploads logs and bus descriptions with progress, one after the other; can be cancelled and goes on where it was. */
export function BusUpload() {
  const { job, readOnly } = useJob();
  const { revalidate } = useRevalidator();
  const [state, setState] = useState<State>({ kind: "idle" });
  const stop = useRef<() => void>(() => undefined);

  async function send(files: readonly File[]) {
    const stored: string[] = [];
    for (const file of files) {
      let stopped = false;
      setState({ kind: "sending", name: file.name, share: 0 });
      const sending = sendBusFile(job.id, file, (share) => {
        if (!stopped) setState({ kind: "sending", name: file.name, share });
      });
      stop.current = () => {
        stopped = true;
        sending.stop();
        setState({ kind: "idle" });
      };
      const answer = await sending.done;
      if (!answer.ok) {
        if (stored.length > 0) revalidate();
        return setState({ kind: "refused", message: answer.message });
      }
      stored.push(file.name);
    }
    setState({ kind: "stored", names: stored });
    revalidate();
  }

  return (
    <div className="mt-4 space-y-3">
      {state.kind === "sending" ? (
        <div className="flex flex-wrap items-center gap-3">
          <progress value={state.share} max={1} className="w-60" aria-label={`Sending ${state.name}`} />
          <span className="num">{Math.round(100 * state.share)} %</span>
          <span>{state.name}</span>
          <Button onClick={() => stop.current()}>Cancel</Button>
        </div>
      ) : (
        <label
          className={`${buttonLook("plain")} cursor-pointer focus-within:outline-3 focus-within:outline-accent ${readOnly ? "pointer-events-none opacity-60" : ""}`}
        >
          <Upload size={18} aria-hidden="true" /> Upload a log or a bus description
          <input
            type="file"
            multiple
            accept={BUS_FILE_ENDINGS.join(",")}
            className="sr-only"
            disabled={readOnly}
            onChange={(e) => {
              const files = [...(e.currentTarget.files ?? [])];
              e.currentTarget.value = "";
              if (files.length > 0) void send(files);
            }}
          />
        </label>
      )}
      <Formats />
      {state.kind === "refused" && (
        <Notice tone="stop" title="Not stored" live>
          <p>{state.message}</p>
        </Notice>
      )}
      {state.kind === "stored" && <Notice tone="good" title={`${state.names.join(", ")}: stored.`} live />}
    </div>
  );
}

/** Which files are read. */
function Formats() {
  return (
    <details>
      <summary className="min-h-11 cursor-pointer py-2 text-sm text-quiet">Which files are read?</summary>
      <table className="text-sm">
        <tbody>
          {[...LOG_FORMATS, { name: "DBC", about: "BO_ 288 KeyState: 4 Body", endings: ["dbc"] }].map((f) => (
            <tr key={f.name} className="border-b border-rule">
              <th scope="row" className="py-1.5 pr-4 text-left font-medium">
                {f.name}
              </th>
              <td className="num py-1.5 pr-4">{f.about}</td>
              <td className="py-1.5 text-quiet">{f.endings.map((e) => `.${e}`).join(" ")}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-sm text-quiet">
        Each of them also compressed as .gz. The beginning of a file decides, not its name.
      </p>
    </details>
  );
}
