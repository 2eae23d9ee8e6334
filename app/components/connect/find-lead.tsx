import { Camera, CameraOff } from "lucide";
import { useCallback, useEffect, useRef, useState } from "react";
import { canScan, useScanner } from "~/app/lib/use-scanner";
import type { Connection } from "~/core/connect/connection-plan";
import { LabelError, readLabel } from "~/core/connect/label";
import { upperFirst } from "~/core/model/labels";
import { Button } from "../controls";
import { useJob } from "../entry-form";
import { Icon } from "../icon";

/** Which plug is this in my hand? Reads the label of a lead by camera or as typed and goes to its line. */
export function FindLead({ connections, onFound }: { connections: Connection[]; onFound(link: string): void }) {
  const { job } = useJob();
  const [text, setText] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const [on, setOn] = useState(false);
  const [scans, setScans] = useState(false);
  const video = useRef<HTMLVideoElement>(null);
  useEffect(() => setScans(canScan()), []);
  const take = useCallback(
    (code: string) => {
      try {
        onFound(readLabel(code, job.number, connections).link);
        setProblem(null);
        setOn(false);
      } catch (error) {
        if (!(error instanceof LabelError)) throw error;
        setProblem(`${upperFirst(error.problem)} ${error.remedy}`);
      }
    },
    [job.number, connections, onFound],
  );
  const cameraProblem = useScanner(video, on, take);
  return (
    <form
      className="mb-3"
      onSubmit={(e) => {
        e.preventDefault();
        take(text);
      }}
    >
      <div className="flex flex-wrap items-end gap-2">
        <label className="block min-w-0 basis-56">
          <span className="text-sm">Code on a lead</span>
          <input
            className="field num mt-1"
            value={text}
            placeholder={`iteron ${job.number} ...`}
            autoComplete="off"
            autoCapitalize="none"
            onChange={(e) => setText(e.currentTarget.value)}
          />
        </label>
        <Button type="submit" disabled={text.trim() === ""}>
          Find it
        </Button>
        {scans && (
          <Button aria-pressed={on} onClick={() => setOn(!on)}>
            {on ? <Icon of={CameraOff} size={18} /> : <Icon of={Camera} size={18} />}
            {on ? "Camera off" : "Scan"}
          </Button>
        )}
      </div>
      {(problem ?? cameraProblem) && (
        <p role="alert" className="mt-1 text-stop">
          {problem ?? cameraProblem}
        </p>
      )}
      {on && (
        <video ref={video} muted playsInline className="mt-2 max-h-64 w-full max-w-md bg-ink" aria-label="Camera" />
      )}
    </form>
  );
}
