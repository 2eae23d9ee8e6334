/** Guards over what is tried and measured: nothing is noted that the car, as it stands, cannot have shown. */
import type { AskedOf } from "../../log/entry";
import type { CarStand } from "../../log/strip-journal";
import { lowerFirst } from "../../model/labels";
import type { Situation } from "../../model/types";
import { roundOf } from "../../prove/rounds";
import { BEGIN } from "../../prove/sequence-sights";
import type { Test } from "../../prove/tests";
import { awaitsFeed, type Connection, carriedBy, isMade } from "../plan";
import { needModule, noSupply } from "../power-now";
import { isOpen } from "../rounds";
import { looksOfPlan } from "../suspects";
import { asksFor, orRunning, type Pressing, refused, type Stop, wantsReason } from "./guard";

/** How the car stands in a situation. After cranking the engine runs. */
export function standIn({ key, selector, speedKmh }: Situation): Partial<CarStand> {
  const rolls = speedKmh > 0;
  return {
    battery: "connected",
    key: key === "cranking" ? "running" : key,
    selector,
    rolling: rolls,
    ...(rolls ? { parkingBrake: false } : selector === "P" ? {} : { parkingBrake: true }),
  };
}

/** A test of the proving. */
export function trying(press: Pressing, { test: id, answer }: AskedOf<"prove.result">): Stop | null {
  const test = press.plan.tests.find((t) => t.id === id);
  // What could not be tried says nothing about the car.
  if (!test || answer === "impossible") return null;
  return tryingOf(press, test, answer === "pass");
}

/** Plugs that are noted as open and without which a test cannot pass. */
export function openFor({ plan, state }: Pick<Pressing, "plan" | "state">, test: Test): Connection[] {
  const open = plan.connections.filter((c) => !isMade(plan, state, c) && !awaitsFeed(plan, state, c));
  return open.length === 0 ? [] : open.filter((c) => carriedBy(plan).get(c.link)?.includes(test));
}

function tryingOf(press: Pressing, test: Test, passed: boolean): Stop | null {
  const { plan, state, view, car } = press;
  const name = `${test.fn.name}, ${test.label}`;
  if (roundOf(test) === "yard" && isOpen(view))
    return refused(
      "open",
      name,
      `${name}: the car is driven for it, and panels are off.`,
      "It belongs to the last round: close the car first.",
    );
  const dead = needModule(plan).has(test.id) ? noSupply(plan, state, { battery: "connected" }) : null;
  if (dead) return refused("power", name, `${name}: ${dead}`, "Plug what is open in Connect, then try again.");
  const open = passed ? openFor(press, test) : [];
  if (open.length > 0) {
    const names = open.map((c) => c.say).join("; ");
    return {
      guard: "plug",
      where: name,
      problem: `${name} cannot work while this is open: ${names}.`,
      remedy: "Plug it, or note that it is plugged.",
      answer: "asks",
      say: open.length === 1 ? "It is plugged" : "They are plugged",
      first: open.map((c) => ({ kind: "connect.plug", data: { link: c.link, plugged: true } })),
    };
  }
  return asksFor("key", car, standIn(test.situation), `${name} is tried with the car standing otherwise.`);
}

/** A try of the baseline: on the car as it came in. */
export function tryingBefore(press: Pressing, { test: id, result }: AskedOf<"intake.baseline">): Stop | null {
  const { plan, state, car, view } = press;
  const test = plan.baseline.find((t) => t.id === id);
  if (!test || result === "absent") return null;
  if (state.plugged.size > 0 || view.done.some((d) => !d.prepStep))
    return wantsReason(
      "baseline",
      test.fn.name,
      `${test.fn.name}: work on the car has begun, so this is not how it came in.`,
      "Say how you know how it was before.",
    );
  return asksFor(
    "key",
    car,
    standIn(test.situation),
    `${test.fn.name}, ${test.label} is tried with the car standing otherwise.`,
  );
}

/** Something that is seen, heard or pressed with the module running. */
export function lit({ plan, state, car }: Pressing, what: string): Stop | null {
  const dead = noSupply(plan, state, { battery: "connected" });
  if (dead) return refused("power", what, `${what}: ${dead}`, "Plug what is open in Connect, then try again.");
  return awake(car, what);
}

/** Something for which the ignition is on, engine running or not. */
export function awake(car: Pressing["car"], what: string): Stop | null {
  return asksFor(
    "key",
    car,
    orRunning(car, { battery: "connected", key: "on" }),
    `${what}: the ignition is on for it.`,
  );
}

/** The first step of a sequence begins with the module running; the others say by themselves how the key goes. */
export function steppingThrough(press: Pressing, { step }: AskedOf<"prove.step">): Stop | null {
  const what = "One after the other";
  return step === BEGIN
    ? lit(press, what)
    : asksFor("battery", press.car, { battery: "connected" }, `${what}: the battery is on for it.`);
}

/** A look or a measurement of the search: what it shows depends on how the car stands. */
export function looking({ plan, car }: Pressing, { check }: AskedOf<"prove.check">): Stop | null {
  const look = looksOfPlan(plan).find((l) => l.id === check);
  if (!look?.stands) return null;
  const wanted = orRunning(car, look.stands);
  return asksFor("key", car, wanted, `${look.title}: it says something else while the car stands otherwise.`);
}

/** The touch panel is measured in the test that it belongs to. */
export function touching(press: Pressing, { test: id }: AskedOf<"prove.touch">): Stop | null {
  const test = press.plan.tests.find((t) => t.id === id);
  return test ? lit(press, lowerFirst(test.fn.name)) : null;
}
