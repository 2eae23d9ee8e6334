/**
 * Interfaces that sit in the picture link: one box between radio and screen, a board inside the radio or behind the
 * upper screen, two boxes with a digital lead between them, cameras only.
 */
import type { KitProfile, KitSetting } from "../../../../core/model/profile";
import { REMEMBERS_CABLE, SHORT_HOLD } from "../common";
import { HARNESS_LINKS, HARNESS_UNPLUG, MODULE_LINK, RING_SETTING, tHarness } from "../harness";
import { emptyKit } from "../head";
import { addCameras, addPhone, addSound, phoneLinks } from "./extras";
import { addBox, pictureLead, pictureLinks, reverseWire } from "./leads";
import type { InterfaceLeaflet } from "./leaflet";
import { module } from "./module";
import { choices, functions, needs } from "./offers";
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
  kit.unplug = [
    HARNESS_UNPLUG,
    { a: "displayLead.radioEnd", b: "radio.video", why: "The picture goes through the module." },
  ];
  kit.choices = choices(l);
  kit.plug = [...HARNESS_LINKS, ...pictureLinks(l)];
  if (l.build === "two boxes") addBox(l, kit);
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
  kit.plug.push(MODULE_LINK, ...(l.mirroring ? phoneLinks() : []));
  kit.functions.push(...functions(l));
  kit.actions = [
    {
      id: "toggle",
      say: "Hold the back key on the wheel for 2 to 4 s",
      part: "module",
      press: "back",
      holdS: { min: 2, max: 4 },
      when: { hears: "wheelBack", bus: "car" },
      set: { pictureMode: "phone" },
    },
  ];
  kit.assumed = l.mirroring ? [REMEMBERS_CABLE, SHORT_HOLD("back")] : [];
  kit.switchBank = {
    part: "module",
    label: "Switch bank, 1 at the plug",
    switches: bank(l).map((s) => s.id),
    off: "off",
    on: "on",
  };
  kit.sets = ringSetting(l);
  if (l.firmwareFloor)
    kit.firmwareFloors = [
      { part: "radio", atLeast: l.firmwareFloor, why: "Older firmware does not show the picture of the module." },
    ];
  kit.needs = needs(l, manual);
  return kit;
}

function ringSetting(l: InterfaceLeaflet): KitSetting[] {
  return l.ring ? [RING_SETTING] : [];
}
