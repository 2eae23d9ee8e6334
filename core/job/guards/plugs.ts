/** Guards over plugs, contacts and the feed. */
import { isCarried } from "../../connect/carried";
import { jointOf } from "../../connect/joints";
import type { AskedOf } from "../../log/entry";
import type { TestState } from "../../log/kinds/connect/feed-test";
import type { ReadingKind } from "../../log/kinds/connect/reading";
import type { CarStand } from "../../log/strip-journal";
import { sameEnds } from "../../model/compose";
import type { SignalKind } from "../../model/kinds";
import { findPort } from "../../model/ports";
import { waitLeftMin } from "../../strip/hazards";
import type { Connection, JobPlan } from "../plan";
import { isPowered } from "../power-now";
import { signatureOf } from "../signature";
import { whileWriting } from "./car";
import { asksFor, orRunning, type Pressing, refused, type Stop } from "./guard";
import { cannotBeUndone } from "./strip";

/** What is never plugged or pulled live: it arcs, stores faults, or burns an output. Common practice. */
const LIVE: ReadonlySet<SignalKind> = new Set([
  "battery",
  "accessory",
  "can",
  "bus",
  "opticalRing",
  "trigger",
  "reverse",
  "lighting",
  "serialVideo",
  "compositeVideo",
  "ribbon",
  "touch",
  "keyScan",
  "radioFrequency",
]);

function isLive(plan: JobPlan, { a, b }: Connection): boolean {
  const kinds = [a, b].flatMap((ref) => findPort(plan.fitted, ref)?.contacts.map((c) => c.kind) ?? []);
  // What is ground and nothing else is the ground of a supply.
  return kinds.some((k) => LIVE.has(k)) || (kinds.length > 0 && kinds.every((k) => k === "ground"));
}

/** A wire of the car is opened for it. */
function isSpliced(plan: JobPlan, { a, b }: Connection): boolean {
  return jointOf([findPort(plan.fitted, a), findPort(plan.fitted, b)]) === "wire";
}

/** A plug goes in or comes out. */
export function plugging(press: Pressing, { link, plugged }: AskedOf<"connect.plug">): Stop | null {
  const { plan, state, car } = press;
  const connection = plan.connections.find((c) => c.link === link);
  if (!connection) return null;
  const behind = plan.steps.flatMap((s) => s.opens ?? []).find((o) => sameEnds(o, connection));
  if (behind?.airbag && car.battery !== "isolated")
    return refused(
      "airbag",
      connection.say,
      `${connection.say}: an airbag plug, and the battery is connected.`,
      "Battery negative off, then wait as the maker says.",
    );
  const left = behind?.airbag ? waitLeftMin(car, press.view.route.plan, press.at) : 0;
  if (left > 0)
    return refused(
      "wait",
      connection.say,
      `${connection.say}: an airbag plug, and the waiting time is not over.`,
      `Wait ${Math.ceil(left)} more min; steps away from the airbags may go on.`,
    );
  if (plugged && !state.plugged.has(link) && isSpliced(plan, connection)) {
    const stays = cannotBeUndone(connection.say, false, signatureOf(plan, state));
    if (stays) return stays;
  }
  const ofTheKit = connection.kind === "kit" && ![connection.a, connection.b].some(isCarried);
  if (plan.chosen.battery === "off" && ofTheKit && plugged && !state.plugged.has(link) && car.battery === "connected")
    return (
      whileWriting(plan, state) ??
      asksFor(
        "battery",
        car,
        { battery: "isolated", key: "off" },
        "By the way of working of this job the kit is plugged with the battery off.",
      )
    );
  if (!isLive(plan, connection)) return null;
  return notLive(press, connection, "plugged and pulled with the key off only");
}

/** A connection that carries supply, bus, picture or antenna is not moved while it is live. */
function notLive({ plan, state, car }: Pressing, { say }: Connection, how: string): Stop | null {
  const writing = whileWriting(plan, state);
  if (writing) return writing;
  if (car.battery === "isolated") return null;
  return car.key !== "off" || !car.keyKnown || isPowered(plan, state, car)
    ? asksFor("key", car, { key: "off" }, `${say}: ${how}.`)
    : null;
}

/** A lock bar is opened: its ribbon hangs by nothing. */
export function unlocking(press: Pressing, { link, shut }: AskedOf<"connect.lock">): Stop | null {
  const connection = press.plan.connections.find((c) => c.link === link);
  return shut || !connection || !press.state.plugged.has(link)
    ? null
    : notLive(press, connection, "its lock bar is opened with the key off only");
}

/** How the car stands while the tester is at a fuse position. */
const TESTED: Readonly<Record<TestState, Partial<CarStand>>> = {
  off: { battery: "connected", key: "off" },
  accessory: { battery: "connected", key: "accessory" },
  on: { battery: "connected", key: "on" },
  start: { battery: "connected", key: "running" },
  doorOpen: { battery: "connected", key: "off" },
};

export function testing({ car }: Pressing, { state }: AskedOf<"connect.feedTest">): Stop | null {
  return asksFor("key", car, TESTED[state], "The tester says nothing while the car stands otherwise.");
}

export function testingTap({ car }: Pressing): Stop | null {
  const wanted = orRunning(car, { battery: "connected", key: "on" });
  return asksFor("key", car, wanted, "The new branch is lit with the ignition on only.");
}

/** How the car stands while the meter is read. */
const MEASURED: Readonly<Record<ReadingKind, Partial<CarStand>>> = {
  battery: { battery: "connected" },
  supplyOff: { battery: "connected", key: "off" },
  supplyOn: { battery: "connected", key: "on" },
  supplyCrank: { battery: "connected", key: "running" },
  drop: { battery: "connected", key: "on" },
  // A live bus shows voltage, and its resistance reads as anything.
  pairOhm: { battery: "isolated", key: "off" },
  busHigh: { battery: "connected", key: "on" },
  busLow: { battery: "connected", key: "on" },
  reverseLamp: { battery: "connected", key: "on", selector: "R", parkingBrake: true },
};

export function measuring({ car }: Pressing, { reading }: AskedOf<"connect.reading">): Stop | null {
  const wanted = orRunning(car, MEASURED[reading]);
  return asksFor("key", car, wanted, "The meter shows something else while the car stands otherwise.");
}

/** Contacts move, and wires are cut, with the key off; a cut stays. */
export function moving({ plan, state, car }: Pressing, setting: string): Stop | null {
  const set = plan.sets.find((s) => s.setting === setting);
  if (!set?.moves?.length) return null;
  const cut = set.moves.some((m) => m.cut) ? cannotBeUndone(set.say, false, signatureOf(plan, state)) : null;
  return cut ?? asksFor("key", car, { key: "off" }, `${set.say}: contacts are moved with the key off.`);
}

export function movingContacts({ car }: Pressing): Stop | null {
  return asksFor("key", car, { key: "off" }, "Contacts are moved with the key off.");
}
