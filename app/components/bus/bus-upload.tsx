import { Upload } from "lucide";
import type { useBusUpload } from "~/app/lib/use-bus-upload";
import { BUS_FILE_ENDINGS } from "~/core/bus/file-kind";
import { LOG_FORMATS } from "~/core/bus/log";
import { Button, buttonLook } from "../controls";
import { useJob } from "../entry-form";
import { Icon } from "../icon";
import { Notice } from "../marks";

/** A button to upload logs and bus descriptions, how far it is, and what became of it. */
export function BusUpload({ state, send, stop }: ReturnType<typeof useBusUpload>) {
  const { readOnly } = useJob();
  return (
    <div className="space-y-3">
      {state.kind === "sending" ? (
        <div className="flex flex-wrap items-center gap-3">
          <progress value={state.share} max={1} className="w-60" aria-label={`Sending ${state.name}`} />
          <span className="num">{Math.round(100 * state.share)} %</span>
          <span>{state.name}</span>
          <Button onClick={stop}>Cancel</Button>
        </div>
      ) : (
        <label
          className={`${buttonLook("plain")} cursor-pointer focus-within:outline-3 focus-within:outline-accent ${readOnly ? "pointer-events-none opacity-60" : ""}`}
        >
          <Icon of={Upload} size={18} /> Upload a log or a bus description
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
      {state.kind === "refused" && (
        <Notice tone="stop" title="Not stored" live>
          <p>{state.message}</p>
        </Notice>
      )}
      <Formats />
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
