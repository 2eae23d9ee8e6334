import type { KitNeed } from "../../../core/model/profile";
import type { AssumedState, FunctionSpec } from "../../../core/model/types";
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
};

export const SHORT_HOLD = (press: string): AssumedState => ({
  id: "shortHold",
  title: "The toggle key was let go too early",
  cause: "Released before two seconds the key does nothing.",
  remedy: "Hold it while counting one thousand, two thousand, three thousand.",
  normal: true,
  where: { pressed: press },
  set: { heldS: 1 },
  weight: 5,
  minutes: 0.5,
});
