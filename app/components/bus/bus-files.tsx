import { format } from "date-fns";
import type { useBusUpload } from "~/app/lib/use-bus-upload";
import type { JobState } from "~/core/log/entry";
import { Focus } from "../bench/focus";
import { Button } from "../controls";
import { BusUpload } from "./bus-upload";

/** The logs and bus descriptions of the job, and the way to more. */
export function BusFiles({
  files,
  shown,
  onShow,
  upload,
}: {
  files: JobState["files"];
  /** The log that is looked at. */
  shown: string | null;
  onShow(file: string): void;
  upload: ReturnType<typeof useBusUpload>;
}) {
  return (
    <Focus kicker="Of this car" title="Files">
      {!files.some((f) => f.what === "log") && (
        <p>
          No log yet. Record the bus while you press keys and move the selector, and upload the text log of frames with
          its bus description.
        </p>
      )}
      <BusUpload {...upload} />
      <ul>
        {files.map((f) => (
          <li key={f.file} className="flex flex-wrap items-center justify-between gap-3 border-b border-rule py-2">
            <span>
              <span className="num font-medium">{f.name}</span>{" "}
              <span className="text-quiet">
                {f.what === "dbc" ? "bus description" : "text log of frames"}, {f.by},{" "}
                {format(new Date(f.at), "d MMM HH:mm")}
              </span>
            </span>
            {f.what === "log" && (
              <Button onClick={() => onShow(f.file)}>{f.file === shown ? "What is on it" : "Show this one"}</Button>
            )}
          </li>
        ))}
      </ul>
    </Focus>
  );
}
