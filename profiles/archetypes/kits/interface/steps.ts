import type { KitStep } from "../../../../core/model/profile";
import { KEY_RIBBON } from "./keys";
import { buildOf, type InterfaceLeaflet } from "./leaflet";
import { openingSteps } from "./opening";

const CUT_BACK = {
  title: "Handle with camera in",
  detail:
    "Lead without a sharp bend; the two cut ends tied back. Back to untouched: old handle, both wires joined again.",
};
/** How the old tailgate handle leaves, by what its lead is. Wires are cut only where there is no plug. */
const HANDLE_LEAD: Record<
  InterfaceLeaflet["handleLead"],
  Pick<KitStep, "title" | "detail" | "back"> & { lasting?: "cut" }
> = {
  plug: {
    title: "Tailgate handle out, its plug off",
    detail: "No wire is cut. The free plug is wrapped in foam and tied back.",
    back: {
      title: "Handle with camera in",
      detail: "Lead without a sharp bend. Back to untouched: old handle in, its plug on.",
    },
  },
  "two wires": {
    title: "Tailgate handle out, its two wires cut and insulated",
    detail: "They stay cut: the new handle with the camera does not use them. Each end insulated for itself.",
    back: CUT_BACK,
    lasting: "cut",
  },
  "not said": {
    title: "Tailgate handle out, its lead free",
    detail:
      "The leaflet does not say how the old handle is connected. A plug is unplugged and tied back; only where there is none are the two wires cut, each end insulated for itself.",
    back: CUT_BACK,
    lasting: "cut",
  },
};

/** Steps of the kit itself: the unit opened for a board, the old tailgate handle out, a hole where it is chosen. */
export function ownSteps(l: InterfaceLeaflet): KitStep[] {
  const { unit } = buildOf(l);
  const minutes = (low: number, likely: number, high: number) => ({ low, likely, high });
  const steps = unit ? openingSteps(l.opening, unit, l.keyReader === "key board" ? [KEY_RIBBON] : []) : [];
  if (l.rearCamera && l.cameraHandle)
    steps.push({
      id: "kit-handle",
      ...HANDLE_LEAD[l.handleLead],
      behind: "loom.camera",
      after: [],
      minutes: minutes(5, 9, 18),
      tool: "8 mm socket",
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
