/** What a document leaves open, with what is to be entered. */
import type { Part } from "../model/types";

export interface Gap {
  kind: "function" | "fault" | "place" | "lead" | "setting" | "drawing" | "plug";
  say: string;
  /** What to enter. */
  remedy: string;
  /** Field of the document in which it is mended. */
  field: string;
}

/** Devices with several sockets whose places are not drawn: they are shown in the order of the document. */
export function missingBacks(parts: readonly Part[]): Gap[] {
  return parts.flatMap((p): Gap[] =>
    p.type === "device" && !p.back && p.ports.filter((port) => port.connector).length > 1
      ? [
          {
            kind: "drawing",
            say: `${p.name}: where its sockets are is not drawn.`,
            remedy: "Enter its back: width, height and the middle of each socket.",
            field: "parts",
          },
        ]
      : [],
  );
}
