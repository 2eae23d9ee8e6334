/** Choices, functions and needs of an interface. */
import type { Choice, KitProfile } from "../../../../core/model/profile";
import { REVERSE_CAUTION } from "../../vocabulary";
import { material, rearViewPhone, tool } from "../common";
import { methods } from "../methods";
import { buildOf, type InterfaceLeaflet } from "./leaflet";
import { touchStands } from "./menu";
import { FRONT_KEY } from "./module";
import { openingNeeds } from "./opening";

const HAS_CAMERA = { fact: "radio.camera", is: ["yes"] };
const FRONT_FITTED = { choice: "frontCamera", is: ["fitted"] };
const SOUND_OPTIONS = {
  line: { id: "line", label: "Line input", why: "Always works; one more lead, and the source must be chosen." },
  carBluetooth: {
    id: "carBluetooth",
    label: "The car's own Bluetooth",
    why: "No lead and no source to explain; the phone must stay paired with the car.",
    assume: { paired: true },
    minutes: -10,
  },
  usbSound: {
    id: "usbSound",
    label: "USB sound adapter",
    why: "The car sees a player; slow to be recognised in some cars.",
  },
};

export function choices(l: InterfaceLeaflet): Choice[] {
  const list: Choice[] = [];
  if (l.mirroring && l.soundPaths.length > 0)
    list.push({
      id: "soundPath",
      label: "Sound path",
      kind: "offer",
      default: l.soundPaths[0] ?? "line",
      options: l.soundPaths.map((p) =>
        p === "line" && l.deletesPairing
          ? {
              ...SOUND_OPTIONS.line,
              why: `${SOUND_OPTIONS.line.why} The phone's pairing with the car is deleted, calls then run through the module.`,
              assume: { paired: false },
            }
          : SOUND_OPTIONS[p],
      ),
    });
  const camera = (id: string, label: string, price: number, minutes: number): Choice => ({
    id,
    label,
    kind: "offer",
    default: "none",
    options: [
      { id: "none", label: "Without", why: "Nothing to run to the end of the car." },
      { id: "fitted", label: "Fitted", why: "One lead to run, one place for the camera.", price, minutes },
    ],
  });
  if (l.frontCamera) list.push(camera("frontCamera", "Front camera", 95, 50));
  if (l.switches.manualFront)
    list.push({
      id: "frontMode",
      label: "Front camera comes",
      kind: "offer",
      default: "automatic",
      ...(l.frontCamera ? { when: FRONT_FITTED } : {}),
      options: [
        { id: "automatic", label: "By itself after reverse", why: "Nothing to press; it goes after some seconds." },
        { id: "manual", label: "On a key", why: "Comes whenever it is wanted; the key does what it did as well." },
      ],
    });
  if (l.rearCamera) list.push(camera("rearCameraAdded", "Added rear camera", 110, 80));
  if (l.hole)
    list.push({
      id: "leadWay",
      label: "Way of the lead",
      kind: "method",
      default: "around",
      options: [
        { id: "around", label: l.hole.instead, why: "Nothing is drilled; it can be undone." },
        {
          id: "hole",
          label: l.hole.say,
          why: "Shorter and hidden; it cannot be undone and the customer says yes before.",
          minutes: 8,
        },
      ],
    });
  return [
    ...list,
    // Where the leaflet says how a phone first meets the module there is nothing to choose.
    ...(l.mirroring && (l.phones?.first ?? "either") === "either" ? methods("pairing") : []),
    ...(l.mirroring ? methods("micPlace") : []),
    ...(l.harness ? methods("feed") : []),
    ...methods("foam", "battery", "trying", "closing"),
  ];
}

export function functions(l: InterfaceLeaflet): KitProfile["functions"] {
  const list: KitProfile["functions"] = [];
  const shown = { pictureMode: "phone", phone: "wireless" } as const;
  if (l.mirroring) {
    list.push(
      {
        id: "phonePicture",
        name: "Phone picture",
        say: "Change to the phone picture; it fills the screen without distortion.",
        who: "customer",
        observe: [{ at: "screen.glass.picture", where: { picture: "phone", format: { fact: "screen.format" } } }],
        situations: [
          { id: "wireless", label: "phone by wireless", set: shown, actions: ["toggle"] },
          { id: "wired", label: "phone by cable", set: { pictureMode: "phone", phone: "wired" }, actions: ["toggle"] },
        ],
        withinMs: 15000,
        minutes: 1.5,
      },
      {
        id: "assistant",
        name: "Voice assistant",
        say: "Ask the phone's assistant for the time; it answers.",
        who: "customer",
        observe: [{ at: "module.core.voice", where: { voice: "added" } }],
        situations: [{ id: "on", label: "phone by wireless", set: shown, actions: ["toggle"] }],
        minutes: 1,
      },
      { ...rearViewPhone(["toggle"]), when: HAS_CAMERA },
      {
        id: "motionLock",
        name: "Video stays locked in motion",
        say: "A second person tries to start a video while the car rolls at walking pace on a closed yard; a notice appears instead.",
        who: "law",
        observe: [{ at: "screen.glass.picture", where: { picture: "lock notice" } }],
        situations: [
          {
            id: "rolling",
            label: "rolling on a closed yard",
            set: { ...shown, key: "running", selector: "D", parkingBrake: false, speedKmh: 8, pressed: "playVideo" },
            actions: ["toggle"],
          },
        ],
        minutes: 4,
        caution:
          "Closed yard, second person at the screen, the driver only drives. The law of the place decides what may be shown.",
      },
    );
    if (l.harness)
      list.push({
        id: "nextKey",
        name: "Next-track wheel key",
        say: "Press next on the wheel; the phone skips a track.",
        who: "customer",
        observe: [{ at: "module.core.skip", where: {} }],
        situations: [{ id: "short", label: "short press", set: { ...shown, pressed: "next" } }],
        minutes: 0.5,
        when: { not: { fact: "bodyComputer.wheelKeys", is: ["no"] } },
      });
    const stand = touchStands(l)[0]?.stand;
    if (l.touch)
      list.push({
        id: "phoneTouch",
        name: "Touch in the phone picture",
        say: "Touch a field on the phone picture; the phone follows.",
        who: "customer",
        observe: [{ at: "module.core.touch", where: { touch: "finger", ...(stand ? { stand } : {}) } }],
        situations: [{ id: "on", label: "phone by wireless", set: { ...shown, pressed: "screen" } }],
        minutes: 0.5,
      });
  }
  if (l.frontCamera)
    list.push({
      id: "frontView",
      name: "Front camera",
      say: "From reverse select drive with the foot on the brake; the front picture appears for some seconds.",
      who: "customer",
      observe: [{ at: "screen.glass.picture", where: { picture: "front camera" } }],
      situations: [{ id: "drive", label: "after reverse", set: { selector: "D", leftReverse: true } }],
      withinMs: 2000,
      minutes: 1,
      caution: "Foot on the brake, nobody in front of or behind the car.",
      when: l.switches.manualFront ? { all: [FRONT_FITTED, { choice: "frontMode", is: ["automatic"] }] } : FRONT_FITTED,
    });
  if (l.frontCamera && l.switches.manualFront)
    list.push({
      id: "frontByHand",
      name: "Front camera on the key",
      say: "Standing, press the key for the front view; the front picture appears.",
      who: "customer",
      observe: [{ at: "screen.glass.picture", where: { picture: "front camera" } }],
      situations: [{ id: "key", label: "key pressed", set: { pressed: FRONT_KEY.press } }],
      withinMs: 2000,
      minutes: 0.5,
      when: { all: [FRONT_FITTED, { choice: "frontMode", is: ["manual"] }] },
    });
  if (l.rearCamera)
    list.push({
      id: "addedRearView",
      name: "Added rear camera",
      say: "Select reverse; the picture of the added camera appears within two seconds.",
      who: "customer",
      observe: [{ at: "screen.glass.picture", where: { picture: "added rear camera" } }],
      situations: [{ id: "reverse", label: "reverse", set: { selector: "R" } }],
      withinMs: 2000,
      minutes: 1,
      caution: REVERSE_CAUTION,
      when: { choice: "rearCameraAdded", is: ["fitted"] },
    });
  return list;
}

/** @param wired on which cars the reverse wire is run; on all when left out */
export function needs(l: InterfaceLeaflet, wired?: { car: "gearbox"; is: string[] }): KitProfile["needs"] {
  const fitted = (id: string) => ({ choice: id, is: ["fitted"] });
  return [
    material("Foam tape, 2 m"),
    material("Ties, 12 pieces"),
    material("Double-sided tape for the module"),
    tool("Plastic wedges"),
    ...(buildOf(l).unit ? openingNeeds(l.opening) : []),
    ...(l.blank
      ? [{ kind: "programming" as const, say: "Module loaded from a computer before the visit", minutes: 15 }]
      : []),
    ...(l.ring && l.harness ? [tool("Extraction tool for optical contacts")] : []),
    {
      kind: "wire",
      say: "Reverse wire from the reverse lamp to the module, 5 m",
      why: wired ? "A manual gearbox does not report reverse on the bus." : "The module is not on the bus of the car.",
      minutes: 35,
      ...(wired ? { when: wired } : {}),
    },
    ...(l.frontCamera
      ? [
          {
            kind: "wire" as const,
            say: "Camera lead through the bulkhead to the front, 4 m",
            minutes: 15,
            when: fitted("frontCamera"),
          },
          {
            kind: "part" as const,
            say: "Bracket for the front camera, no drilling",
            price: 18,
            when: fitted("frontCamera"),
          },
        ]
      : []),
    ...(l.rearCamera
      ? [
          {
            kind: "wire" as const,
            say: "Camera lead through the hinge grommet to the tailgate, 6 m",
            minutes: 25,
            when: fitted("rearCameraAdded"),
          },
          ...(l.cameraHandle
            ? handleNeeds(l).map((n) => ({ ...n, when: fitted("rearCameraAdded") }))
            : [
                {
                  kind: "drilling" as const,
                  say: "Hole for the rear camera in the handle strip, unless a bracket serves",
                  why: "Only where nothing is behind; prefer the bracket, note it and tell the customer.",
                  when: fitted("rearCameraAdded"),
                },
              ]),
        ]
      : []),
    ...(l.hole
      ? [
          {
            kind: "drilling" as const,
            say: l.hole.say,
            why: `Only where nothing is behind; without drilling: ${l.hole.instead.toLowerCase()}.`,
            when: { choice: "leadWay", is: ["hole"] },
          },
        ]
      : []),
    ...(l.harness ? FUSE_FEED : []),
  ];
}

/** What the lead of the old tailgate handle needs: nothing where it is known to have a plug. */
function handleNeeds(l: InterfaceLeaflet): KitProfile["needs"] {
  const ends = "Two insulated ends for the wires of the old handle";
  if (l.handleLead === "plug") return [];
  return l.handleLead === "two wires"
    ? [{ kind: "part", say: `${ends}, which stay cut`, price: 2 }]
    : [{ kind: "part", say: `${ends}, if it has no plug`, why: "The leaflet does not say.", price: 2 }];
}

/** What the feed from the fuse panel needs. */
const FUSE_FEED: KitProfile["needs"] = [
  {
    kind: "tool",
    say: "LED tester and the fuse map of the car",
    why: "To find a switched circuit that may carry the added load.",
    when: { choice: "feed", is: ["fuse"] },
  },
  { kind: "part", say: "Fuse tap with fuse for the added load", price: 9, when: { choice: "feed", is: ["fuse"] } },
];
