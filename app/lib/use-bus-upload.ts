import { useRef, useState } from "react";
import { useRevalidator } from "react-router";
import { toast } from "sonner";
import { meantAs } from "~/core/bus/file-kind";
import { sendBusFile } from "./send-bus-file";

export type UploadState =
  | { kind: "idle" }
  | { kind: "sending"; name: string; share: number }
  | { kind: "refused"; message: string };

/** Uploads logs and bus descriptions with progress, one after the other; can be stopped and goes on where it was. */
export function useBusUpload(jobId: string, onStored: (log: boolean) => void) {
  const { revalidate } = useRevalidator();
  const [state, setState] = useState<UploadState>({ kind: "idle" });
  const stop = useRef<() => void>(() => undefined);

  async function send(files: readonly File[]) {
    const stored: string[] = [];
    const over = () => {
      if (stored.length === 0) return;
      void revalidate();
      toast.success(`${stored.join(", ")}: stored.`);
      onStored(stored.some((name) => meantAs(name) === "log"));
    };
    for (const file of files) {
      let stopped = false;
      setState({ kind: "sending", name: file.name, share: 0 });
      const sending = sendBusFile(jobId, file, (share) => {
        if (!stopped) setState({ kind: "sending", name: file.name, share });
      });
      stop.current = () => {
        stopped = true;
        sending.stop();
        setState({ kind: "idle" });
        over();
      };
      const answer = await sending.done;
      if (!answer.ok) {
        setState({ kind: "refused", message: answer.message });
        return over();
      }
      stored.push(file.name);
    }
    setState({ kind: "idle" });
    over();
  }
  return { state, send, stop: () => stop.current() };
}
