import type { KitStep } from "../../../../core/model/profile";
import { KEY_RIBBON } from "./keys";
import type { InterfaceLeaflet } from "./leaflet";
import { openingSteps } from "./opening";

/** Steps of the kit itself: the unit opened for a board, the old tailgate handle out, a hole where it is chosen. */
export function ownSteps(l: InterfaceLeaflet): KitStep[] {
  const unit = l.build === "board behind the upper screen" ? "screen" : "radio";
  const minutes = (low: number, likely: number, high: number) => ({ low, likely, high });
  const steps = l.build.startsWith("board")
    ? openingSteps(l.opening, unit, l.keyReader === "key board" ? [KEY_RIBBON] : [])
    : [];
  if (l.rearCamera && l.cameraHandle)
    steps.push({
      id: "kit-handle",
      title: "Tailgate handle out, its two wires cut and insulated",
      detail: "They stay cut: the new handle with the camera does not use them. Each end insulated for itself.",
      back: {
        title: "Handle with camera in",
        detail:
          "Lead without a sharp bend; the two cut ends tied back. Back to untouched: old handle, both wires joined again.",
      },
      behind: "loom.camera",
      after: [],
      minutes: minutes(5, 9, 18),
      tool: "8 mm socket",
      lasting: "cut",
      side: "tailgate",
      level: "middle",
      panel: "tailgate handle",
      fasteners: [{ kind: "8 mm nut", count: 2, tray: "U9", place: "behind the handle" }],
      when: { choice: "rearCameraAdded", is: ["fitted"] },
    });
  if (l.hole)
    steps.push({
      id: "kit-hole",
      title: l.hole.say,
      detail: "Look and feel behind it first. Drill stop, vacuum, edge deburred, rubber grommet.",
      back: { title: "Grommet and lead through the hole", detail: "The hole stays: it is on the certificate." },
      after: [],
      minutes: minutes(5, 8, 15),
      tool: "drill with stop",
      lasting: "hole",
      caution: "Only where nothing is behind. It cannot be undone: the customer has said yes before.",
      when: { choice: "leadWay", is: ["hole"] },
    });
  return steps;
}
