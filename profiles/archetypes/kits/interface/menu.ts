/**
 * The menu of an interface: settings that stand on its screen instead of in the switch bank. Each changes what the module
 * does, so that a wrong one shows in the model as it shows in the car.
 */
import { z } from "zod";
import type { KitCondition, KitProfile, KitSetting } from "../../../../core/model/profile";
import type { Condition, Setting } from "../../../../core/model/types";
import { set } from "../../vocabulary";
import { words } from "../head";
import type { InterfaceLeaflet } from "./leaflet";

const ENTRIES = [
  "cameraType",
  "guideLines",
  "soundPath",
  "pictureSize",
  "autoReturn",
  "homeKey",
  "motionLock",
  "touchStand",
] as const;
export type MenuEntry = (typeof ENTRIES)[number];

export const menuLeaflet = z.strictObject({
  entry: z.enum(ENTRIES).describe("Setting"),
  where: words.describe("Way through the menus"),
});

const ADDED: KitCondition = { choice: "rearCameraAdded", is: ["fitted"] };

/** What an entry is called, its values as delivered first, and how it must stand. */
const KNOWN: Record<
  MenuEntry,
  { label: string; values: [string, string, ...string[]]; must: { value: string; say: string; when?: KitCondition }[] }
> = {
  cameraType: {
    label: "Camera type",
    values: ["none", "factory", "added"],
    must: [
      {
        value: "added",
        say: "Camera type: added, for the camera of this kit",
        when: ADDED,
      },
      {
        value: "factory",
        say: "Camera type: factory, for the camera of the car",
        when: { fact: "radio.camera", is: ["yes"] },
      },
    ],
  },
  guideLines: {
    label: "Guide lines",
    values: ["off", "on"],
    must: [{ value: "on", say: "Guide lines: on", when: ADDED }],
  },
  soundPath: {
    label: "Sound path",
    values: ["not chosen", "line", "carBluetooth", "usbSound"],
    must: [
      { value: "line", say: "Sound path: line output", when: { choice: "soundPath", is: ["line"] } },
      {
        value: "carBluetooth",
        say: "Sound path: the car's own Bluetooth",
        when: { choice: "soundPath", is: ["carBluetooth"] },
      },
      { value: "usbSound", say: "Sound path: USB sound lead", when: { choice: "soundPath", is: ["usbSound"] } },
    ],
  },
  pictureSize: {
    label: "Picture size",
    values: ["narrow", "wide"],
    must: [{ value: "wide", say: "Picture size: wide, or bars stay at the sides" }],
  },
  autoReturn: {
    label: "Return after reverse",
    values: ["off", "on"],
    must: [{ value: "on", say: "Return to the phone picture after reverse: on" }],
  },
  homeKey: {
    label: "Home key",
    values: ["off", "on"],
    must: [{ value: "on", say: "Home key: on, a short press goes to the phone's first page" }],
  },
  touchStand: {
    label: "Touch panel",
    values: ["straight", "mirrored left to right", "mirrored top to bottom", "turned by half"],
    must: [{ value: "straight", say: "Touch panel: straight" }],
  },
  motionLock: {
    label: "Video in motion",
    values: ["locked", "free"],
    must: [{ value: "locked", say: "Video in motion: leave it locked" }],
  },
};

const has = (l: Pick<InterfaceLeaflet, "menu">, entry: MenuEntry) => l.menu.some((m) => m.entry === entry);

/** Condition that an entry stands at one of some values; always given where the menu does not have it. */
export function inMenu(l: Pick<InterfaceLeaflet, "menu">, entry: MenuEntry, ...values: string[]): Condition[] {
  return has(l, entry) ? [set(entry, ...values)] : [];
}

/** The same, never given where the menu does not have it. */
export function onlyInMenu(l: Pick<InterfaceLeaflet, "menu">, entry: MenuEntry, value: string): Condition | null {
  return has(l, entry) ? set(entry, value) : null;
}

/** Which way the touch panel stands to the picture, by each value of the menu; one way where the menu does not have it. */
export function touchStands(l: Pick<InterfaceLeaflet, "menu">): { when: Condition[]; stand: string | null }[] {
  return has(l, "touchStand")
    ? KNOWN.touchStand.values.map((stand) => ({ when: [set("touchStand", stand)], stand }))
    : [{ when: [], stand: null }];
}

/** Settings of the module for its menu. */
export function menuSettings(l: InterfaceLeaflet): Setting[] {
  return l.menu.map(({ entry }) => {
    const { label, values } = KNOWN[entry];
    const given = values.filter((v) =>
      entry === "soundPath"
        ? v === values[0] || l.soundPaths.some((p) => p === v)
        : entry !== "cameraType" || v !== "added" || l.rearCamera,
    );
    return { id: entry, label, values: [...given], initial: values[0] };
  });
}

/** How the menu must stand, in its order. */
export function menuSets(l: InterfaceLeaflet): KitSetting[] {
  return l.menu.flatMap(({ entry, where }) =>
    KNOWN[entry].must
      .filter(({ when }) => when === undefined || askable(l, when))
      .map(({ value, say, when }): KitSetting => {
        const replaced = entry === "cameraType" && value === "factory" && l.rearCamera;
        const asked = when && replaced ? { all: [when, { not: ADDED }] } : when;
        return {
          setting: `module.${entry}`,
          value,
          means: "menu",
          say,
          where,
          minutes: 1,
          ...(asked ? { when: asked } : {}),
        };
      }),
  );
}

/** True when the kit has the choice, and the option, that a condition asks for. */
function askable(l: InterfaceLeaflet, when: KitCondition): boolean {
  if (!("choice" in when)) return true;
  return when === ADDED ? l.rearCamera : l.soundPaths.some((p) => when.is.includes(p));
}

/** What a person can try of it, beside the pictures themselves. */
export function menuFunctions(l: InterfaceLeaflet, toggle: { name: string; press: string }): KitProfile["functions"] {
  const shown = { pictureMode: "phone", phone: "wireless" } as const;
  return [
    ...(has(l, "guideLines") && l.rearCamera
      ? [
          {
            id: "addedGuideLines",
            name: "Guide lines on the added camera",
            say: "Select reverse; lines lie over the picture of the added camera.",
            who: "customer" as const,
            observe: [{ at: "screen.glass.picture", where: { picture: "added rear camera", lines: "on" } }],
            situations: [{ id: "reverse", label: "reverse", set: { selector: "R" as const } }],
            withinMs: 2000,
            minutes: 0.5,
            caution: "Foot on the brake, nobody behind the car.",
            when: { choice: "rearCameraAdded", is: ["fitted"] },
          },
        ]
      : []),
    ...(has(l, "autoReturn") && l.mirroring
      ? [
          {
            id: "phoneAfterReverse",
            name: "Phone picture after reverse",
            say: "From reverse with the phone picture select drive with the foot on the brake; the phone picture comes back by itself.",
            who: "customer" as const,
            observe: [{ at: "screen.glass.picture", where: { picture: "phone" } }],
            situations: [
              {
                id: "drive",
                label: "after reverse",
                set: { ...shown, selector: "D" as const, leftReverse: true },
                actions: ["toggle"],
              },
            ],
            minutes: 1,
            caution: "Foot on the brake, nobody in front of or behind the car.",
            ...(l.frontCamera ? { when: { not: { choice: "frontCamera", is: ["fitted"] } } } : {}),
          },
        ]
      : []),
    ...(has(l, "homeKey") && l.mirroring
      ? [
          {
            id: "homeKey",
            name: "Home key in the phone picture",
            say: `In the phone picture press the ${toggle.name} for a moment; the phone goes to its first page.`,
            who: "customer" as const,
            observe: [{ at: "module.core.home", where: {} }],
            situations: [{ id: "short", label: "short press", set: { ...shown, pressed: toggle.press, heldS: 0.3 } }],
            minutes: 0.5,
          },
        ]
      : []),
  ];
}
