/** Guards over how the car is brought to stand: power, key, selector, brake. */

import { plugState } from "../../configure/programming-plug";
import type { CarStand } from "../../log/strip-journal";
import { waitLeftMin } from "../../strip/hazards";
import { doNotSwitchOn } from "../car-state";
import { wronglyLoaded } from "../loads";
import { unlocked } from "../locks";
import { asksFor, type Pressing, refused, type Stop } from "./guard";

/** Everything that speaks against bringing the car to stand so. */
export function bringing(press: Pressing, sets: Partial<CarStand>): Stop | null {
  return (
    interrupting(press, sets) ??
    waiting(press, sets) ??
    movingTheBattery(press, sets) ??
    switchingOn(press, sets) ??
    turningTheKey(press, sets) ??
    leavingPark(press, sets) ??
    driving(press, sets)
  );
}

/** Hands in a car that is driven: nobody works so. */
export function atRest({ car }: Pressing): Stop | null {
  return car.rolling
    ? asksFor(
        "open",
        car,
        { rolling: false, selector: "P" },
        "The car is being driven; work on it waits until it stands.",
      )
    : null;
}

/** The battery goes off and on with the key off, and without the maintainer at its posts; common practice. */
function movingTheBattery({ car }: Pressing, sets: Partial<CarStand>): Stop | null {
  if (sets.battery === undefined || sets.battery === car.battery) return null;
  const airbag = sets.battery === "connected" ? openAirbagPlug(car) : undefined;
  if (airbag)
    return refused(
      "airbag",
      airbag.name ?? "airbag plug",
      `Battery on while an airbag plug is open: ${airbag.name ?? airbag.b}.`,
      "Close the airbag plug while the battery is off, then connect the battery with nobody in the car.",
    );
  if (sets.key === undefined && (car.key !== "off" || !car.keyKnown))
    return asksFor("key", car, { key: "off" }, "The battery is taken off and put on with the key off.");
  return sets.battery === "isolated" && car.maintainer && sets.maintainer === undefined
    ? asksFor("battery", car, { maintainer: false }, "The maintainer comes off the battery first: a spark there burns.")
    : null;
}

function openAirbagPlug({ plugsOpen }: Pressing["car"]) {
  return plugsOpen.find((p) => p.airbag);
}

/** True when something has power after it that had none before, as far as battery and key say. */
const isLive = ({ battery, key }: Pick<CarStand, "battery" | "key">): boolean =>
  battery === "connected" && key !== "off";

/** Nothing is switched on while what is connected would be damaged, or while what is loaded is wrong. */
function switchingOn(press: Pressing, sets: Partial<CarStand>): Stop | null {
  const { car } = press;
  const after = { ...car, ...sets };
  const powers = (sets.battery === "connected" && car.battery === "isolated") || (isLive(after) && !isLive(car));
  return powers ? switchOn(press) : null;
}

/** What stands against giving the kit power, whatever gives it. */
export function switchOn({ job, plan, state, car }: Pressing): Stop | null {
  const [wrong] = doNotSwitchOn(job);
  if (wrong) return refused("switch-on", wrong.where, `Do not switch on. ${wrong.text}`, wrong.remedy);
  const [ribbon] = unlocked(plan, state);
  if (ribbon)
    return refused(
      "switch-on",
      ribbon.say,
      `Do not switch on. ${ribbon.say}: its lock bar is not shut.`,
      "Push the ribbon home, shut the lock bar, note it in Connect.",
    );
  const inside = car.plugsOpen.find(
    (p) => p.lock === "slide" && plan.documents.kit.steps?.some((s) => s.id === p.step),
  );
  if (inside)
    return refused(
      "switch-on",
      inside.name ?? "opened unit",
      `Do not switch on. A unit is open, and its ribbon is out: ${inside.name ?? inside.b}.`,
      "Ribbon home, lock bar shut, then power.",
    );
  const load = wronglyLoaded(plan, state);
  if (!load) return null;
  const stop = refused("switch-on", "module", `Do not switch on. ${load.problem}`, load.remedy);
  return load.notSeen === null
    ? stop
    : {
        ...stop,
        answer: "asks",
        say: "Looked: it is loaded for this car",
        first: [
          {
            kind: "configure.loaded",
            data: { setting: load.notSeen, what: "loaded", identification: "", data: "", translation: false },
          },
        ],
      };
}

/** With an airbag plug open the key stays off, and with the plug of the start button off it does nothing. */
function turningTheKey({ car, view }: Pressing, sets: Partial<CarStand>): Stop | null {
  if (sets.key === undefined || sets.key === "off") return null;
  const airbag = openAirbagPlug(car);
  if (airbag)
    return refused(
      "airbag",
      airbag.name ?? "airbag plug",
      "Ignition on while an airbag plug is open: the airbag unit stores a fault that stays.",
      "Close the airbag plug with the battery off, then turn the key.",
    );
  const button = car.plugsOpen.find((p) => /start button|ignition lock/i.test(p.name ?? ""));
  if (button)
    return refused(
      "key",
      button.name ?? "start button",
      "The plug of the start button is off; the car cannot be switched on.",
      `Plug it in first: ${view.route.plan.steps.find((s) => s.id === button.step)?.title ?? "the panel with the button"}.`,
    );
  const after = { ...car, ...sets };
  if (after.battery === "isolated")
    return asksFor("battery", car, { battery: "connected" }, "The key does nothing while the battery is off.");
  const starts = (sets.key === "running" || sets.key === "cranking") && car.key !== "running";
  return starts && sets.selector === undefined && car.selector !== "P" && car.selector !== "N"
    ? asksFor("selector", car, { selector: "P" }, "The engine is started in park: in gear the car jumps.")
    : null;
}

/** Out of park the brake holds the car, except while somebody drives it on purpose. */
function leavingPark({ car }: Pressing, sets: Partial<CarStand>): Stop | null {
  const after = { ...car, ...sets };
  const loosens = sets.parkingBrake === false && car.parkingBrake && after.selector !== "P";
  if ((sets.selector === undefined || sets.selector === "P") && !loosens) return null;
  if (loosens && !after.rolling)
    return asksFor(
      "selector",
      car,
      { selector: "P" },
      "Selector out of park: without the parking brake the car rolls.",
    );
  return after.parkingBrake || after.rolling
    ? null
    : asksFor(
        "brake",
        car,
        { parkingBrake: true },
        "Selector out of park and the parking brake is not set: the car can roll.",
      );
}

/** A car is driven closed, with its power on, and with nothing hanging at it. */
function driving({ car, plan, state }: Pressing, sets: Partial<CarStand>): Stop | null {
  if (!sets.rolling || car.rolling) return null;
  const open = car.panelsOff[0] ?? car.plugsOpen[0]?.name ?? car.fastenersOut[0]?.kind;
  if (open)
    return refused(
      "open",
      open,
      `The car is not driven open: ${open} is off or loose.`,
      "Close the car first; what is tried while driving belongs to the last round.",
    );
  if (plugInSocket(plan, state))
    return refused(
      "open",
      "programming plug",
      "The programming plug is still in the diagnostic socket.",
      "Let it finish, take it out, then drive.",
    );
  const wanted: Partial<CarStand> = { battery: "connected", maintainer: false };
  const after = { ...car, ...sets };
  if (after.key === "off" || after.key === "accessory") wanted.key = "running";
  const missing = Object.fromEntries(Object.entries(wanted).filter(([f]) => !(f in sets)));
  return asksFor("key", car, missing, "A car is driven with the battery on, the maintainer off and the key on.");
}

function plugInSocket(plan: Pressing["plan"], state: Pressing["state"]): boolean {
  const plug = plan.documents.kit.programmingPlug;
  return plug !== undefined && plugState(state.plugEvents, plug).inSocket;
}

/** What is being written keeps its supply and its key. */
function interrupting({ plan, state, car }: Pressing, sets: Partial<CarStand>): Stop | null {
  const takes =
    (sets.rolling === true && !car.rolling) ||
    (sets.battery === "isolated" && car.battery === "connected") ||
    (sets.key !== undefined && sets.key !== car.key) ||
    (sets.maintainer === false && car.maintainer);
  return takes ? whileWriting(plan, state) : null;
}

/** Why no supply may be taken away now. */
export function whileWriting(plan: Pressing["plan"], state: Pressing["state"]): Stop | null {
  if (state.firmware.running)
    return refused(
      "running-write",
      "firmware",
      `The update to ${state.firmware.running.to} is running. A radio that loses its supply can be lost.`,
      "Leave everything as it is until it has ended, and say how it ended.",
    );
  const plug = plan.documents.kit.programmingPlug;
  return plug && plugState(state.plugEvents, plug).phase === "writing"
    ? refused(
        "running-write",
        "programming plug",
        "The programming plug is writing. An interrupted write can leave the car without its module.",
        "Wait for its lamp, then go on.",
      )
    : null;
}

/** The waiting time is over when it is over; only where the maker's figure is not known a person says so. */
function waiting({ car, view, at }: Pressing, sets: Partial<CarStand>): Stop | null {
  if (!sets.waited) return null;
  if ((sets.battery ?? car.battery) !== "isolated")
    return refused("wait", "battery", "The battery is on; there is no waiting time.", "Take the battery off first.");
  const left = waitLeftMin(car, view.route.plan, at);
  return left > 0
    ? refused(
        "wait",
        "waiting time",
        `${Math.ceil(left)} min are still to wait.`,
        "Work away from the airbags may go on.",
      )
    : null;
}
