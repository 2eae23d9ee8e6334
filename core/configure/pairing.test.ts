import { describe, expect, test } from "vitest";
import { type PhoneFault, phoneSeen } from "../../sim/phone";
import {
  PAIRING_STEPS,
  type PairingAct,
  type PairingRules,
  type PairingWay,
  pairingLines,
  pairingSteps,
  pairings,
} from "./pairing";

const RULES: PairingRules = {
  gives: "mirroring",
  first: "wireless",
  families: [
    { id: "tern", name: "Tern phones", addedFrom: "module", where: "Setup, Add" },
    { id: "lapwing", name: "Lapwing phones", addedFrom: "phone" },
  ],
  shownAs: "BOX",
  pin: "compare",
};
const WAY: PairingWay = { first: "wireless", carPairing: null, source: "lineIn" };

const begin = { phone: "A", act: "begin", family: "tern" } as const;

/** Goes on with what the stand-in phone shows, remedies done, until it is paired. */
function pair(rules: PairingRules, way: PairingWay, fault: PhoneFault | null, cannot: string | null = null) {
  const acts: ({ phone: string } & PairingAct)[] = [begin];
  for (let i = 0; i < 40; i++) {
    const [phone] = pairings(rules, way, acts);
    if (!phone?.step) return { acts, phone };
    acts.push({ phone: "A", ...(phoneSeen(phone, fault, cannot) ?? { act: "again" }) });
  }
  return { acts, phone: pairings(rules, way, acts)[0] };
}

const ids = (rules: PairingRules, way: PairingWay) => pairingSteps(rules, way, null).map((s) => s.id);

describe("steps of a first pairing (common practice)", () => {
  test("follow kit, sound path and kind of phone", () => {
    expect(ids(RULES, WAY)).toEqual(["fresh", "add", "pin", "allow", "session", "sound", "call"]);
    expect(ids(RULES, { ...WAY, first: "cable", carPairing: "removed" }).slice(0, 3)).toEqual([
      "carRemoved",
      "cable",
      "add",
    ]);
    expect(ids(RULES, { ...WAY, carPairing: "kept" })[0]).toBe("carKept");
    expect(ids({ ...RULES, gives: "calls", pin: "2580", asksPriority: true }, WAY)).toEqual([
      "add",
      "pin",
      "priority",
      "call",
    ]);
    const [tern, lapwing] = RULES.families.map((f) => pairingSteps(RULES, WAY, f).find((s) => s.id === "add"));
    expect(tern?.title).toBe("Add the phone on the module's screen");
    expect(tern?.detail).toContain("Setup, Add");
    expect(lapwing?.title).toBe("Choose “BOX” in the phone's Bluetooth list");
    expect(pairingSteps(RULES, WAY, null).find((s) => s.id === "add")?.detail).toContain("The leaflet says nothing");
  });

  test("stand in the order in which a trouble goes back", () => {
    for (const carPairing of ["kept", "removed", null] as const)
      for (const first of ["wireless", "cable"] as const) {
        const order = ids({ ...RULES, asksPriority: true }, { ...WAY, first, carPairing }).map((s) =>
          PAIRING_STEPS.indexOf(s),
        );
        expect(order).toEqual(order.toSorted((a, b) => a - b));
      }
  });
});

describe("a first pairing", () => {
  test("comes to its end with every fault of the phone, after its remedy", () => {
    expect(pair(RULES, WAY, null).phone).toMatchObject({ step: null, met: [] });
    expect(pair(RULES, WAY, "remembersCable").phone).toMatchObject({ step: null, met: ["noWireless"] });
    expect(pair(RULES, WAY, "mirroringOff").phone).toMatchObject({ step: null, met: ["notOffered"] });
    expect(pair(RULES, WAY, "otherNumber").phone).toMatchObject({ step: null, met: ["pinRefused"] });
  });

  test("a module that wants the cable first is not refused for it", () => {
    expect(pair(RULES, { ...WAY, first: "cable" }, "remembersCable").phone).toMatchObject({ step: null, met: [] });
  });

  test("does not end while nothing can come by wireless", () => {
    expect(pair(RULES, WAY, null, "The antenna is not plugged.").phone?.step).not.toBeNull();
  });

  test("a refused phone is added again; what came before stays done", () => {
    const at = (acts: PairingAct[]) => pairings(RULES, WAY, [begin, ...acts.map((a) => ({ phone: "A", ...a }))])[0];
    const seen = (...steps: (typeof PAIRING_STEPS)[number][]) => steps.map((step) => ({ act: "seen" as const, step }));
    const refused = [
      ...seen("fresh", "add", "pin", "allow"),
      { act: "trouble", step: "session", trouble: "noWireless" } as const,
    ];
    expect(at(refused)).toMatchObject({ trouble: "noWireless", step: { id: "session" } });
    const after = at([...refused, { act: "again" }]);
    expect(after).toMatchObject({ trouble: null, step: { id: "add" }, met: ["noWireless"] });
    expect(after?.steps.filter((s) => s.done).map((s) => s.id)).toEqual(["fresh"]);
    // The phone was on the cable: forgotten and restarted it counts as new.
    const cured = at([{ act: "trouble", step: "fresh", trouble: "wasOnCable" }, { act: "again" }]);
    expect(cured?.step?.id).toBe("add");
    const notListed = at([...seen("fresh"), { act: "trouble", step: "add", trouble: "notListed" }, { act: "again" }]);
    expect(notListed?.step?.id).toBe("add");
  });

  test("phones are kept apart, dropped ones are gone, a changed sound path opens its step", () => {
    const acts = pair(RULES, WAY, null).acts;
    const two = [...acts, { phone: "B", act: "begin" as const, family: null }];
    expect(pairings(RULES, WAY, two).map((p) => [p.phone, p.step?.id ?? "done"])).toEqual([
      ["A", "done"],
      ["B", "fresh"],
    ]);
    expect(pairings(RULES, WAY, [...two, { phone: "A", act: "dropped" }]).map((p) => p.phone)).toEqual(["B"]);
    expect(pairings(RULES, { ...WAY, carPairing: "removed" }, acts)[0]?.step?.id).toBe("carRemoved");
  });
});

test("the card tells each kind of phone its own way, and only those that were paired here", () => {
  const all = pairingLines(RULES, { ...WAY, carPairing: "kept" }, new Set());
  expect(all.join("\n")).toMatch(
    /Tern phones: Add the phone on the module's screen; Compare.*\n.*Lapwing phones: Choose “BOX”/,
  );
  expect(all.at(-1)).toMatch(/stays paired with the car/);
  const one = pairingLines(RULES, { ...WAY, first: "cable" }, new Set(["lapwing"]));
  expect(one).toHaveLength(1);
  expect(one[0]).toMatch(/^First pairing, Lapwing phones: Phone on the cable/);
});
