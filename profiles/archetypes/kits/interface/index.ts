/**
 * Interfaces that sit in the picture link: one box between radio and screen, a board inside the radio or behind the
 * upper screen, two boxes with a digital lead between them, cameras only.
 */
import type { CardLine, KitProfile, KitSetting, KitStep } from "../../../../core/model/profile";
import { BOOTS, CRANKS, REMEMBERS_CABLE, SHORT_HOLD, SLOW_USB_SOUND } from "../common";
import { HARNESS_LINKS, HARNESS_UNPLUG, MODULE_LINK, RING_SETTING, tHarness } from "../harness";
import { emptyKit } from "../head";
import { addCameras, addPhone, addSound, phoneLinks } from "./extras";
import { addBox, addFeedLead, addSplitter, pictureLead, pictureLinks, pictureUnplug, reverseWire } from "./leads";
import type { InterfaceLeaflet } from "./leaflet";
import { module } from "./module";
import { choices, functions, needs } from "./offers";
import { openingSteps } from "./opening";
import { bank } from "./switches";

const WORK = {
  "one box": "Interface between a separate radio and screen",
  "board inside the radio": "Board fitted inside the radio",
  "board behind the upper screen": "Board behind the upper of two screens",
  "two boxes": "Two-box interface with a digital picture lead",
} as const;
export function buildInterface(l: InterfaceLeaflet): KitProfile {
  const work = !l.mirroring
    ? "Camera interface, rear and front"
    : l.ring
      ? "Interface on a car with an optical ring"
      : WORK[l.build];
  const kit = emptyKit(l, work);
  const manual = { car: "gearbox" as const, is: ["manual"] };
  kit.parts = [
    module(l),
    tHarness(l, l.ring),
    pictureLead(l, "videoInLead", "IN"),
    pictureLead(l, "videoOutLead", "OUT"),
  ];
  kit.unplug = [HARNESS_UNPLUG, pictureUnplug(l)];
  kit.choices = choices(l);
  kit.plug = [...HARNESS_LINKS, ...pictureLinks(l)];
  if (l.build === "two boxes") addBox(l, kit);
  if (l.splitter) addSplitter(kit);
  kit.parts.push({ ...reverseWire(l), when: manual });
  kit.plug.push(
    {
      id: "k-reverse-lamp",
      a: "reverseWire.lamp",
      b: "loom.reverseLamp",
      say: "Reverse wire to the reverse lamp plug",
      when: manual,
    },
    { id: "k-reverse", a: "reverseWire.module", b: "module.wires", say: "Reverse wire into the module", when: manual },
  );
  addSound(l, kit);
  addCameras(l, kit);
  if (l.mirroring) addPhone(kit);
  addFeedLead(kit);
  kit.plug.push(MODULE_LINK, ...(l.mirroring ? phoneLinks() : []));
  kit.steps = ownSteps(l);
  kit.functions.push(...functions(l));
  kit.actions = [
    {
      id: "toggle",
      say: `Hold the back key on the wheel for ${l.holdS.min} to ${l.holdS.max} s`,
      part: "module",
      press: "back",
      holdS: l.holdS,
      when: { hears: "wheelBack", bus: "car" },
      set: { pictureMode: "phone" },
    },
  ];
  kit.assumed = l.mirroring ? [REMEMBERS_CABLE, SHORT_HOLD("back", l.holdS.min)] : [];
  kit.normal = normalStates(l);
  kit.card = [...kit.card, ...cardLines(l)];
  kit.switchBank = {
    part: "module",
    label: "Switch bank, 1 at the plug",
    switches: bank(l).map((s) => s.id),
    off: "off",
    on: "on",
  };
  kit.sets = [...(l.ring ? [RING_SETTING] : []), ...(l.blank ? [LOADED] : [])];
  if (l.firmwareFloor)
    kit.firmwareFloors = [
      { part: "radio", atLeast: l.firmwareFloor, why: "Older firmware does not show the picture of the module." },
    ];
  kit.needs = needs(l, manual);
  return kit;
}

const LOADED: KitSetting = {
  setting: "module.data",
  value: "loaded",
  means: "programming",
  say: "Load the data of this car into the module on a computer before fitting",
  minutes: 15,
};

/** Steps of the kit itself: the unit opened for a board, the old tailgate handle out, a hole where it is chosen. */
function ownSteps(l: InterfaceLeaflet): KitStep[] {
  const unit = l.build === "board behind the upper screen" ? "screen" : "radio";
  const minutes = (low: number, likely: number, high: number) => ({ low, likely, high });
  const steps = l.build.startsWith("board") ? openingSteps(l.opening, unit) : [];
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
      caution: "Only where nothing is behind. It cannot be undone: the customer has said yes before.",
      when: { choice: "leadWay", is: ["hole"] },
    });
  return steps;
}

function normalStates(l: InterfaceLeaflet): KitProfile["normal"] {
  if (!l.mirroring) return [BOOTS];
  return [
    BOOTS,
    CRANKS,
    ...(l.soundPaths.includes("usbSound")
      ? [{ ...SLOW_USB_SOUND, when: { choice: "soundPath", is: ["usbSound"] } }]
      : []),
  ];
}

/** The card follows the choices: toggle, source, pairing. */
function cardLines(l: InterfaceLeaflet): CardLine[] {
  if (!l.mirroring) return [];
  const sound = (id: string, say: string) =>
    l.soundPaths.some((p) => p === id) ? [{ say, when: { choice: "soundPath", is: [id] } }] : [];
  return [
    `Hold the back key on the wheel for ${l.holdS.min} to ${l.holdS.max} seconds to change between the factory picture and the phone.`,
    {
      say: "First pairing by wireless: add the phone in its Bluetooth menu, then allow mirroring. A phone that met the module by cable first may refuse wireless until it is restarted.",
      when: { choice: "pairing", is: ["wireless"] },
    },
    {
      say: "First pairing by cable: plug the phone in once, allow mirroring, then change to wireless.",
      when: { choice: "pairing", is: ["cable"] },
    },
    ...sound("line", "Choose the line input for phone sound."),
    ...(l.deletesPairing
      ? sound("line", "The phone is no longer paired with the car: calls run through the module while it is connected.")
      : []),
    ...sound("carBluetooth", "Choose Bluetooth audio for phone sound; the phone stays paired with the car."),
    ...sound("usbSound", "Choose the USB player for phone sound; after the start the car reads it for some seconds."),
  ];
}
