import { describe, expect, test } from "vitest";
import { shippedLibrary } from "../../profiles/library";
import { named, press, refusalOf, signedJob } from "../../tests/support/jobs";
import type { Command } from "../log/entry";
import type { KitProfile } from "../model/profile";
import { cardOf } from "./card";
import { certificateOf } from "./certificate";
import type { Job } from "./job";
import { pairingOpen, wirelessNow } from "./pairing";
import { isSet } from "./set-state";

const NOW = "2026-11-27T10:00:00Z";
const library = shippedLibrary();
const HALDEN = named("kestrane-halden-14", "kestrane-halden-14-k1", "orvanto-om8-ring");

function connected(job: Job): Job {
  return press(
    job,
    ...job.plan.sets
      .filter((s) => s.moves)
      .map((s): Command => ({ kind: "configure.set", data: { setting: s.setting, done: true } })),
    ...job.plan.connections
      .filter((c) => c.kind === "kit")
      .map((c): Command => ({ kind: "connect.plug", data: { link: c.link, plugged: true } })),
  );
}

const act = (data: object, phone = "A"): Command =>
  ({ kind: "configure.pairing", data: { phone, ...data } }) as Command;

describe("the first pairing of a job", () => {
  test("needs power, begins with a phone, and goes step by step", () => {
    const dark = signedJob(HALDEN);
    const begin = act({ act: "begin", family: "tern-phones" });
    expect(refusalOf(dark, begin, NOW)).toMatch(/module has no power/);
    const job = connected(dark);
    expect(refusalOf(job, act({ act: "seen", step: "add" }), NOW)).toMatch(/not begun/);
    expect(refusalOf(job, act({ act: "begin", family: "gull" }), NOW)).toMatch(/no phone family “gull”/);
    const begun = press(job, begin);
    expect(refusalOf(begun, act({ act: "seen", step: "session" }), NOW)).toMatch(/does not follow/);
    expect(refusalOf(begun, act({ act: "trouble", step: "carRemoved", trouble: "silent" }), NOW)).toMatch(
      /does not follow/,
    );
    expect(refusalOf(begun, act({ act: "again" }), NOW)).toMatch(/does not follow/);
    expect(refusalOf(begun, act({ act: "seen", step: "carRemoved" }), NOW)).toBeNull();
    const none = signedJob(named("velmora-corrie-19", "velmora-corrie-19-r2", "orvanto-om8"));
    expect(refusalOf(none, begin, NOW)).toMatch(/says nothing about phones/);
  });

  test("is open until a phone is paired, let be, or a test has shown one", () => {
    const job = connected(signedJob(HALDEN));
    expect(pairingOpen(job)).toBe(true);
    const begun = press(job, act({ act: "begin", family: null }));
    expect(pairingOpen(begun)).toBe(true);
    expect(pairingOpen(press(begun, act({ act: "dropped" })))).toBe(false);
    const shown = press(job, {
      kind: "prove.result",
      data: { test: "phonePicture/wireless", answer: "pass", note: "" },
    });
    expect(pairingOpen(shown)).toBe(false);
    const done = finish(begun);
    expect(pairingOpen(done)).toBe(false);
    const phones = certificateOf(done, NOW).sections.find((s) => s.title === "Phones");
    expect(phones?.lines).toEqual(["A: paired, first by wireless."]);
  });

  test("the card is for the kinds of phones that were paired", () => {
    const job = connected(signedJob(HALDEN));
    const done = finish(press(job, act({ act: "begin", family: "lapwing-phones" })));
    const card = (j: Job) => cardOf(j.plan, j.state).join("\n");
    expect(card(job)).toMatch(/Tern phones/);
    expect(card(done)).toMatch(/Lapwing phones/);
    expect(card(done)).not.toMatch(/Tern phones/);
  });

  test("asks the model whether anything can come by wireless, and says why not", () => {
    const job = connected(signedJob(HALDEN));
    expect(wirelessNow(job)).toBeNull();
    const without = press(job, { kind: "connect.plug", data: { link: "k-antenna", plugged: false } });
    expect(wirelessNow(without)).toMatch(/not plugged/);
  });

  test("the PIN of a hands-free module is entered with its first phone, not by a tick", () => {
    const kit = library.find((p) => p.id === "ostrel-talk-key") as KitProfile;
    const { car, variant } = named("hollinby-dunlin-16", "hollinby-dunlin-16-l2", kit.id);
    const job = connected(signedJob({ car, variant, kit }));
    const pin = job.plan.sets.find((s) => s.setting === "module.pin");
    if (!pin) throw new Error("no PIN");
    expect(refusalOf(job, { kind: "configure.set", data: { setting: "module.pin", done: true } }, NOW)).toMatch(
      /cannot be ticked/,
    );
    const added = press(job, act({ act: "begin", family: null }), act({ act: "seen", step: "add" }));
    expect(isSet(added.plan, added.state, pin)).toBe(false);
    const done = press(added, act({ act: "seen", step: "pin" }));
    expect(isSet(done.plan, done.state, pin)).toBe(true);
  });
});

function finish(job: Job): Job {
  const step = job.facts(NOW).phones()?.phones[0]?.step;
  return step ? finish(press(job, act({ act: "seen", step: step.id }))) : job;
}
