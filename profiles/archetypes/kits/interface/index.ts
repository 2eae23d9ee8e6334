/**
 * Interfaces that sit in the picture link: one box between radio and screen, a board inside the radio or behind the
 * upper screen, two boxes with a digital lead between them, cameras only.
 */
import type { KitProfile, KitSetting } from "../../../../core/model/profile";
import { REMEMBERS_CABLE, SHORT_HOLD } from "../common";
import { HARNESS_LINKS, HARNESS_UNPLUG, MODULE_LINK, RING_SETTING, tHarness } from "../harness";
import { emptyKit } from "../head";
import { phoneRules } from "../phones";
import { cardLines, normalStates } from "./card";
import { addCameras, addPhone, addSound, phoneLinks } from "./extras";
import { inspections } from "./inspections";
import { addKeyBoard, toggleOf } from "./keys";
import { addBox, pictureLead, pictureLinks, pictureUnplug, reverseWire } from "./leads";
import { buildOf, type InterfaceLeaflet } from "./leaflet";
import { menuFunctions, menuSets } from "./menu";
import { module } from "./module";
import { choices, functions, needs } from "./offers";
import { ownSteps } from "./steps";
import { addFeedLead, addPowerLead, addSplitter, reverseWireWhen } from "./supply";
import { bank } from "./switches";

export function buildInterface(l: InterfaceLeaflet): KitProfile {
  const work = !l.mirroring
    ? "Camera interface, rear and front"
    : l.ring && l.harness
      ? "Interface on a car with an optical ring"
      : buildOf(l).work;
  const kit = emptyKit(l, work);
  const wired = reverseWireWhen(l);
  const toggle = toggleOf(l);
  kit.parts = [
    module(l),
    ...(l.harness ? [tHarness(l, l.ring)] : []),
    pictureLead(l, "videoInLead", "IN"),
    pictureLead(l, "videoOutLead", "OUT"),
  ];
  kit.unplug = [...(l.harness ? [HARNESS_UNPLUG] : []), pictureUnplug(l)];
  kit.choices = choices(l);
  kit.plug = [...(l.harness ? HARNESS_LINKS : []), ...pictureLinks(l)];
  if (l.build === "two boxes") addBox(l, kit);
  if (l.splitter) addSplitter(kit);
  if (l.keyReader === "key board") addKeyBoard(l, kit);
  kit.parts.push({ ...reverseWire(l), ...wired });
  kit.plug.push(
    {
      id: "k-reverse-lamp",
      a: "reverseWire.lamp",
      b: "loom.reverseLamp",
      say: "Reverse wire to the reverse lamp plug",
      ...wired,
    },
    { id: "k-reverse", a: "reverseWire.module", b: "module.wires", say: "Reverse wire into the module", ...wired },
  );
  addSound(l, kit);
  addCameras(l, kit);
  if (l.mirroring) addPhone(kit);
  if (l.harness) addFeedLead(kit);
  else addPowerLead(kit);
  kit.plug.push(...(l.harness ? [MODULE_LINK] : []), ...(l.mirroring ? phoneLinks() : []));
  kit.steps = ownSteps(l);
  kit.functions.push(...functions(l), ...menuFunctions(l, toggle));
  kit.actions = [
    {
      id: "toggle",
      say: `Hold the ${toggle.name} for ${l.holdS.min} to ${l.holdS.max} s`,
      part: "module",
      press: toggle.press,
      holdS: l.holdS,
      when: toggle.when,
      set: { pictureMode: "phone" },
    },
  ];
  kit.assumed = l.mirroring ? [REMEMBERS_CABLE, SHORT_HOLD(toggle.press, l.holdS.min)] : [];
  if (l.mirroring && l.phones) kit.phone = phoneRules(l.phones, "mirroring");
  kit.normal = normalStates(l);
  kit.inspections = inspections(l, kit.parts);
  kit.card = [...kit.card, ...cardLines(l)];
  kit.switchBank = {
    part: "module",
    label: "Switch bank, 1 at the plug",
    switches: bank(l).map((s) => s.id),
    off: "off",
    on: "on",
  };
  kit.sets = [...(l.ring && l.harness ? [RING_SETTING] : []), ...(l.blank ? [LOADED] : []), ...menuSets(l)];
  if (l.firmwareFloor)
    kit.firmwareFloors = [
      { part: "radio", atLeast: l.firmwareFloor, why: "Older firmware does not show the picture of the module." },
    ];
  kit.needs = needs(l, wired.when);
  return kit;
}

const LOADED: KitSetting = {
  setting: "module.data",
  value: "loaded",
  means: "programming",
  say: "Load the data of this car into the module on a computer before fitting",
  minutes: 15,
};
