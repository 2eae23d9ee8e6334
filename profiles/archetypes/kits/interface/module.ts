/** The interface itself: what comes in, what goes out, and when. */
import type { KitPart } from "../../../../core/model/profile";
import type { Condition, Port, Route, Source } from "../../../../core/model/types";
import { pictureContacts } from "../../radio/plugs";
import {
  all,
  during,
  FEMALE,
  gives,
  half,
  has,
  hears,
  inside,
  MALE,
  not,
  port,
  set,
  takes,
  wire,
} from "../../vocabulary";
import { dataSettings, heardAs, onceLoaded } from "./data";
import { READER_PORT, toggleOf } from "./keys";
import { buildOf, type InterfaceLeaflet } from "./leaflet";
import { inMenu, menuSettings, onlyInMenu, touchStands } from "./menu";
import { moduleSupply, reversing } from "./supply";
import { bank, formatSwitches, role } from "./switches";

export const PHONE = during("pictureMode", "phone");
const ROLLING: Condition = { situation: "speedKmh", atLeast: 6 };
export function module(l: InterfaceLeaflet): KitPart {
  const two = l.build === "two boxes";
  const out = two ? "digital.v" : "videoOut.v";
  const frontOn = frontWanted(l);
  const noFront = frontOn ? [not(frontOn)] : [];
  const supply = moduleSupply(l);
  const inReverse = reversing(l);
  const ports: Port[] = [
    ...supply.ports,
    port("wires", "loose wires", half({ family: "Wires 4", ways: 4 }, MALE), [
      { ...takes("rev", "reverse", "reverse trigger"), ...wireLook(l, "reverseTrigger") },
    ]),
    ...(l.keyReader === "key board" ? [READER_PORT] : []),
  ];
  const sources: Source[] = [];
  const routes: Route[] = [];
  if (two)
    ports.push(
      port("digital", "digital picture socket", half(DIGITAL, FEMALE), [
        ...pictureContacts("out"),
        gives("f", "trigger", "factory picture wanted"),
        gives("p", "trigger", "feed of the box"),
        wire("g", "ground"),
      ]),
    );
  else ports.push(...videoPorts(l));
  const showFactory: Condition = {
    any: [
      all(during("pictureMode", "factory"), not(inReverse), ...noFront),
      all(...role(l.switches.rear, "off"), ...factoryView(l), inReverse),
      ...staysAfterReverse(l, all(not(inReverse), ...noFront)),
    ],
  };
  if (two) {
    sources.push(
      { id: "factoryWanted", at: ["digital.f"], when: all(during("pictureMode", "factory"), ...noFront) },
      {
        id: "reverseWanted",
        at: ["digital.f"],
        when: all(...(l.rearCamera ? role(l.switches.rear, "off") : []), inReverse),
      },
      { id: "boxFeed", at: ["digital.p"] },
    );
  } else {
    routes.push({
      id: "factoryPass",
      from: "videoIn.v",
      to: "videoOut.v",
      when: l.rearCamera ? showFactory : factoryAlways(l, noFront, inReverse),
      settleMs: 100,
    });
    routes.push({ id: "factoryTouch", from: "videoOut.t", to: "videoIn.t", when: during("pictureMode", "factory") });
  }
  if (l.mirroring) addSession(l, out, noFront, ports, sources, routes);
  if (frontOn) {
    ports.push(cameraSocket("camera", "front camera plug", l));
    sources.push({ id: "frontFeed", at: ["camera.1"], when: frontOn });
    routes.push({
      id: "frontView",
      from: "camera.3",
      to: out,
      when: all(frontOn, not(inReverse)),
      set: { format: "native" },
      settleMs: 300,
    });
  }
  if (l.rearCamera) {
    ports.push(cameraSocket("rear", "rear camera plug", l));
    sources.push({ id: "rearFeed", at: ["rear.1"], when: inReverse });
    const shown = all(...role(l.switches.rear, "on"), ...inMenu(l, "cameraType", "added"), inReverse);
    const lines = onlyInMenu(l, "guideLines", "on");
    routes.push({
      id: "rearAdded",
      from: "rear.3",
      to: out,
      when: lines ? all(shown, not(lines)) : shown,
      set: { format: "native" },
      settleMs: 300,
    });
    if (lines)
      routes.push({
        id: "rearWithLines",
        from: "rear.3",
        to: out,
        when: all(shown, lines),
        set: { format: "native", lines: "on" },
        settleMs: 300,
      });
  }
  return {
    id: "module",
    name: buildOf(l).unit ? "Interface board" : "Interface module",
    type: "device",
    lamp: "green lamp",
    draws: { onA: 0.8, peakA: 2, sleepMa: 4, minimumV: 9 },
    reachMinutes: l.build === "board inside the radio" ? 12 : 1,
    needs: supply.needs,
    ...(l.harness ? { buses: [{ id: "car", high: "main.3", low: "main.4" }] } : {}),
    joins: [
      {
        contacts: [
          supply.ground,
          ...(l.frontCamera ? ["camera.2"] : []),
          ...(l.rearCamera ? ["rear.2"] : []),
          ...(two ? ["digital.g"] : []),
        ],
      },
    ].filter((j) => j.contacts.length > 1),
    settings: [...bank(l), ...menuSettings(l), ...dataSettings(l)],
    ports,
    sources: onceLoaded(l, sources),
    routes: onceLoaded(l, routes),
  };
}

/** When the front camera is shown, where there is one: after reverse, or on the key where the bank says by hand. */
function frontWanted(l: InterfaceLeaflet): Condition | null {
  if (!l.frontCamera) return null;
  const { front, manualFront } = l.switches;
  if (manualFront === undefined) return all(...role(front, "on"), LEFT_REVERSE);
  const byHand = all(...role(manualFront, "on"), heardAs(l, "volumeDown", hears(FRONT_KEY.message)));
  return all(...role(front, "on"), { any: [all(...role(manualFront, "off"), LEFT_REVERSE), byHand] });
}

/** Wheel key that shows the front camera by hand. */
export const FRONT_KEY = { press: "volumeDown", message: "wheelVolumeDown" };

/** Without an own rear camera input the factory picture always comes through in reverse. */
function factoryAlways(l: InterfaceLeaflet, noFront: readonly Condition[], inReverse: Condition): Condition {
  return {
    any: [
      all(during("pictureMode", "factory"), ...noFront),
      all(inReverse, ...factoryView(l)),
      ...staysAfterReverse(l, all(not(inReverse), ...noFront)),
    ],
  };
}

/** In reverse: the menu must know of a factory camera, or the module leaves the picture as it is. */
function factoryView(l: InterfaceLeaflet): Condition[] {
  const none = onlyInMenu(l, "cameraType", "none");
  return none ? [{ any: [set("cameraType", "factory"), all(none, during("pictureMode", "factory"))] }] : [];
}

/** Where the menu says that the phone picture does not come back by itself the factory picture stays. */
function staysAfterReverse(l: InterfaceLeaflet, otherwise: Condition): Condition[] {
  const off = onlyInMenu(l, "autoReturn", "off");
  return off ? [all(PHONE, off, LEFT_REVERSE, otherwise)] : [];
}

const LEFT_REVERSE: Condition = { situation: "leftReverse", is: [true] };

export const DIGITAL = { family: "Digital picture 19", ways: 19 };
export const CAMERA_PLUG = { family: "Camera 4", ways: 4, keying: "C" };

export function videoPorts(l: InterfaceLeaflet): Port[] {
  return [
    port("videoIn", "VIDEO IN", half({ ...l.pictureLink, colour: "green" }, MALE), pictureContacts("in")),
    port("videoOut", "VIDEO OUT", half({ ...l.pictureLink, colour: "violet" }, MALE), pictureContacts("out")),
  ];
}

export function wireLook(l: InterfaceLeaflet, job: "cameraFeed" | "reverseTrigger") {
  const found = l.wires.find((w) => w.job === job);
  return found ? { wire: found.tracer ? { base: found.base, tracer: found.tracer } : { base: found.base } } : {};
}

function cameraSocket(id: string, label: string, l: InterfaceLeaflet): Port {
  return port(id, label, half({ ...CAMERA_PLUG, keying: id === "rear" ? "D" : "C" }, FEMALE), [
    { ...gives("1", "trigger", "camera feed"), ...wireLook(l, "cameraFeed") },
    wire("2", "ground"),
    takes("3", "compositeVideo"),
  ]);
}

/** The phone's session inside the module and what comes of it: picture, lock notice, touch, sound, voice, keys. */
function addSession(
  l: InterfaceLeaflet,
  out: string,
  noFront: readonly Condition[],
  ports: Port[],
  sources: Source[],
  routes: Route[],
): void {
  ports.push(
    port("usb", "USB socket", half({ family: "USB A", ways: 4 }, FEMALE), [wire("1", "usb")]),
    port("antenna", "antenna socket", half({ family: "Screw coax", ways: 1 }, FEMALE), [takes("1", "radioFrequency")]),
    port("mic", "MIC jack", half(JACK, FEMALE), [takes("T", "microphone"), wire("S", "ground")]),
    inside("core", "phone session", [
      gives("session", "usb", "phone session"),
      gives("touch", "touch", "touch for the phone"),
      gives("voice", "microphone", "voice for the phone"),
      ...(l.menu.some((m) => m.entry === "homeKey") ? [gives("home", "trigger", "first page of the phone")] : []),
      ...(l.harness ? [gives("skip", "trigger", "skip of the phone")] : []),
    ]),
  );
  const home = onlyInMenu(l, "homeKey", "on");
  if (home)
    sources.push({
      id: "home",
      at: ["core.home"],
      when: all(PHONE, home, toggleOf(l).when, { situation: "heldS", atMost: 1 }),
    });
  const blind = onlyInMenu(l, "cameraType", "none");
  const stays = onlyInMenu(l, "autoReturn", "off");
  const showing = all(
    PHONE,
    not(blind ? all(reversing(l), not(blind)) : reversing(l)),
    ...noFront,
    ...(stays ? [not(all(stays, LEFT_REVERSE))] : []),
  );
  const lockedNow = all(
    heardAs(l, "motionLock", ROLLING),
    during("pressed", "playVideo"),
    ...inMenu(l, "motionLock", "locked"),
  );
  routes.push(
    { id: "cable", from: "usb.1", to: "core.session", settleMs: 1500 },
    {
      id: "wireless",
      from: "antenna.1",
      to: "core.session",
      when: has("antenna.1", { strength: "good" }),
      settleMs: 2500,
    },
    { id: "voice", from: "mic.T", to: "core.voice" },
  );
  l.formats.forEach((format, i) => {
    routes.push({
      id: `phone-${format}`,
      from: "core.session",
      to: out,
      when: all(showing, ...formatSwitches(l, i), ...inMenu(l, "pictureSize", "wide"), not(lockedNow)),
      set: { picture: "phone", format },
      settleMs: 500,
    });
    sources.push({
      id: `lock-${format}`,
      at: [out],
      attributes: { picture: "lock notice", format },
      when: all(showing, ...formatSwitches(l, i), lockedNow),
    });
  });
  const narrow = onlyInMenu(l, "pictureSize", "narrow");
  if (narrow)
    routes.push({
      id: "phone-narrow",
      from: "core.session",
      to: out,
      when: all(showing, narrow, not(lockedNow)),
      set: { picture: "phone", format: "with bars" },
      settleMs: 500,
    });
  if (l.touch)
    for (const [i, { when, stand }] of touchStands(l).entries())
      routes.push({
        id: i === 0 ? "phoneTouch" : `phoneTouch-${i}`,
        from: l.build === "two boxes" ? "digital.t" : "videoOut.t",
        to: "core.touch",
        when: all(PHONE, ...role(l.switches.touch, "on"), ...when),
        ...(stand ? { set: { stand } } : {}),
      });
  if (l.harness)
    sources.push({
      id: "skip",
      at: ["core.skip"],
      when: all(PHONE, ...role(l.switches.olderKeys, "off"), heardAs(l, "next", hears("wheelNext"))),
    });
  const chosen = (path: string) => {
    const [when] = inMenu(l, "soundPath", path);
    return when ? { when } : {};
  };
  if (l.soundPaths.includes("line")) {
    ports.push(
      port("audio", "AUDIO jack", half(JACK, FEMALE), [
        gives("T", "lineAudio"),
        gives("R", "lineAudio"),
        wire("S", "ground"),
      ]),
    );
    routes.push(
      ...(["left", "right"] as const).map((channel) => ({
        id: channel,
        from: "core.session",
        to: channel === "left" ? "audio.T" : "audio.R",
        ...chosen("line"),
        set: { sound: "phone", channel },
      })),
    );
  }
  if (l.soundPaths.includes("usbSound")) {
    ports.push(port("sound", "USB sound lead", half({ family: "USB A", ways: 4 }, MALE), [gives("1", "usb")]));
    routes.push({
      id: "usbSound",
      from: "core.session",
      to: "sound.1",
      ...chosen("usbSound"),
      set: { sound: "phone" },
      settleMs: 6000,
    });
  }
}

export const JACK = { family: "Jack 3.5", ways: 3 };
