/** Guards over what is written into control units, modules and the radio: key on, engine off, supply sure. */
import type { AskedOf } from "../../log/entry";
import { UPDATE_VOLTS } from "../../log/kinds/configure/firmware";
import { isPowered, noSupply, radioWithoutSupply } from "../power-now";
import { switchOn, whileWriting } from "./car";
import { asksFor, type First, type Pressing, refused, type Stop } from "./guard";
import { moving } from "./plugs";
import { awake, lit } from "./tried";

/** A reading of the battery says for so long how its voltage is, in minutes. Our assumption. */
const READING_HOLDS_MIN = 30;

/**
 * Nothing is written unless the supply holds: ignition on, engine off, maintainer on or a voltage that was measured a
 * moment ago; common practice.
 *
 * @param measured volts that the press itself brings
 */
function sureSupply({ state, car, at }: Pressing, what: string, measured?: number): Stop | null {
  const no = (problem: string, remedy: string): Stop => ({
    ...refused("supply", what, `${what}: ${problem}`, remedy),
    answer: "refused",
    right: standsSure(car),
  });
  if (car.rolling) return no("the car is being driven.", "Let it stand, ignition on, then write.");
  if (car.battery === "isolated") return no("the battery is off.", "Battery on, ignition on, then write.");
  if (car.key === "running") return no("the engine is running.", "Engine off, ignition on, maintainer connected.");
  if (car.key !== "on" || !car.keyKnown) return no("the ignition is not on.", "Ignition on, engine off, then write.");
  const reading = state.readings.findLast((r) => r.reading === "battery");
  const fresh =
    reading && Date.parse(at) - Date.parse(reading.at) <= READING_HOLDS_MIN * 60_000 ? reading.value : undefined;
  const volts = measured ?? fresh;
  if (volts !== undefined && volts < UPDATE_VOLTS)
    return no(
      `${volts} V at the battery is too little; ${UPDATE_VOLTS} V at least.`,
      "Connect the maintainer, wait until it holds, measure again.",
    );
  return volts === undefined && !car.maintainer
    ? no(
        "nobody knows whether the battery holds.",
        "Connect a battery maintainer and note it, or measure the battery in Connect.",
      )
    : null;
}

/** The car as it stands for writing. */
function standsSure(car: Pressing["car"]): { say: string; press: First[] } {
  const wanted = { battery: "connected", key: "on", maintainer: true, rolling: false } as const;
  const say = "Ignition on, engine off, maintainer connected";
  const sets = Object.fromEntries(
    Object.entries(wanted).filter(([f, v]) => car[f as keyof typeof wanted] !== v || (f === "key" && !car.keyKnown)),
  );
  return { say, press: [{ kind: "strip.stands", data: { sets } }] };
}

/** Frames with the control units: reading needs the ignition, writing a supply that is sure. */
export function talking(press: Pressing, { act, volts }: AskedOf<"configure.session">): Stop | null {
  return act === "write"
    ? sureSupply(press, "Writing to control units", volts ?? undefined)
    : awake(press.car, "Control units answer");
}

export function updating(press: Pressing, { state, volts }: AskedOf<"configure.firmware">): Stop | null {
  if (state !== "started") return null;
  const dark = radioWithoutSupply(press.plan, press.state);
  if (dark) return refused("power", "firmware", `Firmware update: ${dark}`, "Plug the radio in, then update it.");
  return sureSupply(press, "Firmware update", volts);
}

/** A setting is noted as made. */
export function setting(press: Pressing, { setting: ref, done }: AskedOf<"configure.set">): Stop | null {
  const set = press.plan.sets.find((s) => s.setting === ref);
  if (!set || !done) return null;
  switch (set.means) {
    case "coding":
    case "gateway":
      return sureSupply(press, set.say);
    case "menu":
      return lit(press, set.say);
    case "contacts":
      return moving(press, ref);
    case "programmingPlug":
    case "firmware":
    case "programming":
      return null;
  }
}

export function programming(press: Pressing, { event }: AskedOf<"configure.plug">): Stop | null {
  if (event === "ignition") return awake(press.car, "Programming plug");
  return event === "pluggedIn" ? sureSupply(press, "Programming plug") : null;
}

/** The plug of the module is pulled and put in again. */
export function powerCycling(press: Pressing, { step }: AskedOf<"configure.powerCycle">): Stop | null {
  const { plan, state, car } = press;
  const writing = whileWriting(plan, state);
  if (writing) return writing;
  return step === "out"
    ? asksFor("key", car, { key: "off" }, "The plug of the module is pulled with the key off.")
    : switchOn(press);
}

/** Switches that are changed while the module runs: it goes on with the old ones. */
export function switching({ plan, state, car }: Pressing, { settings }: AskedOf<"configure.switches">): Stop | null {
  const before = state.switches;
  const changed = before !== null && Object.keys(settings).some((k) => settings[k] !== before[k]);
  if (!changed || !isPowered(plan, state, car)) return null;
  return {
    guard: "bank",
    where: "switch bank",
    problem: "The module has power: switches are changed with its plug out only.",
    remedy: "Pull its plug, change the switches, plug it in again.",
    answer: "asks",
    say: "Its plug is pulled",
    first: [{ kind: "configure.powerCycle", data: { step: "out" } }],
  };
}

export function pairing(press: Pressing, { act }: AskedOf<"configure.pairing">): Stop | null {
  if (act === "dropped") return null;
  const dead = noSupply(press.plan, press.state, { battery: "connected" });
  return dead
    ? refused("power", "module", `The module has no power. ${dead}`, "Pair the phone once it runs.")
    : awake(press.car, "Pairing");
}
