import type { KitNeed } from "../../../core/model/profile";
import type { AssumedState, FunctionSpec, NormalState } from "../../../core/model/types";
import { fourSpeakers, REVERSE_CAUTION } from "../vocabulary";

export const SOUND_FUNCTION = (source: "lineIn" | "bluetooth" | "usb", label: string): FunctionSpec => ({
  id: "phoneSound",
  name: "Phone sound on four speakers",
  say: `Choose ${label}, play music on the phone; move balance and fader to each corner.`,
  who: "customer",
  observe: fourSpeakers("phone"),
  situations: [
    {
      id: "on",
      label: `${label} chosen`,
      set: { pictureMode: "phone", phone: "wireless", source },
      actions: ["toggle"],
    },
  ],
  minutes: 1.5,
});

/** Rear camera out of the phone picture, with the given action before it. */
export function rearViewPhone(actions: string[]): FunctionSpec {
  return {
    id: "rearViewPhone",
    name: "Rear camera out of the phone picture",
    say: "From the phone picture select reverse; the rear picture appears within two seconds, the phone picture returns after.",
    who: "law",
    observe: [{ at: "screen.glass.picture", where: { picture: "rear camera" } }],
    situations: [
      { id: "phone", label: "phone picture", set: { pictureMode: "phone", phone: "wireless", selector: "R" }, actions },
    ],
    withinMs: 2000,
    minutes: 1,
    caution: REVERSE_CAUTION,
  };
}

export const material = (say: string): KitNeed => ({ kind: "material", say });
export const tool = (say: string): KitNeed => ({ kind: "tool", say });

export const REMEMBERS_CABLE: AssumedState = {
  id: "remembersCable",
  title: "The phone remembers the cable",
  cause: "A phone first used by cable keeps the wired profile and refuses wireless.",
  remedy: "Restart the phone, forget the module, pair by wireless again.",
  normal: true,
  where: { phone: "wireless" },
  set: { phone: "rememberedWired" },
  weight: 4,
  minutes: 2,
  seen: "The module stays on its start page; the phone does not offer mirroring.",
};

/** @param minS shortest hold that counts */
export const SHORT_HOLD = (press: string, minS: number): AssumedState => ({
  id: "shortHold",
  title: "The toggle key was let go too early",
  cause: `Released before ${minS} s the key does nothing.`,
  remedy: `Hold it while counting ${countOut(minS)}.`,
  normal: true,
  where: { pressed: press },
  set: { heldS: minS / 2 },
  weight: 5,
  minutes: 0.5,
  seen: "The factory picture stays.",
});

const NUMBERS = ["one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten"];

/** Counted aloud, a second for each: common practice. */
function countOut(minS: number): string {
  const seconds = Math.min(NUMBERS.length, Math.ceil(minS) + 1);
  return NUMBERS.slice(0, seconds)
    .map((n) => `${n} thousand`)
    .join(", ");
}

/** What every module between radio and screen does at its first start. */
export const BOOTS: NormalState = {
  id: "boots",
  title: "The module starts up",
  seen: "The screen stays black.",
  shows: ["black", "late"],
  why: "After power comes back the module loads before it passes any picture on.",
  remedy: "Wait; do not take the power away again.",
  lastsS: { min: 3, max: 20 },
  functions: ["phonePicture", "factoryPicture", "rearView"],
};

/** Cranking takes the supply down for a moment. */
export const CRANKS: NormalState = {
  id: "engineStart",
  title: "The engine start takes the supply down",
  seen: "The phone picture goes and the factory picture or black comes.",
  shows: ["breaksOff", "otherPicture", "black", "silent"],
  breaksAt: "engineStart",
  why: "While the engine cranks the supply is below what the module needs.",
  remedy: "Wait until the session is back; plug the phone in again if it is on its cable.",
  lastsS: { min: 5, max: 40 },
  functions: ["phonePicture", "phoneSound"],
};

export const SLOW_USB_SOUND: NormalState = {
  id: "slowUsbSound",
  title: "The car looks at the USB adapter",
  seen: "No sound from the phone; the car says that it reads the medium.",
  shows: ["silent", "otherSource", "late"],
  why: "The car takes the sound adapter for a player and reads it first.",
  remedy: "Wait with the USB source chosen; do not pull the lead.",
  lastsS: { min: 5, max: 60 },
  functions: ["phoneSound"],
};
