import { describe, expect, it } from "vitest";
import { shippedLibrary } from "../../profiles/library";
import { jobOf, logOf, refusalOf } from "../../tests/support/jobs";
import { type CodingMap, codedWords, knownValues } from "../coding/map";
import { fieldValue, hexFromBytes, withFields } from "../coding/word";
import { codingView } from "../views/coding";
import { codingOf, codingPlan, settingsOfWords } from "./coding";
import { planJob } from "./plan";

const library = shippedLibrary();
const AT = "2026-01-05T12:00:00Z";

function documents(variantId: string, kitId: string) {
  const kit = library.find((p) => p.id === kitId);
  const variant = library.find((p) => p.id === variantId);
  const car = library.find((p) => variant?.document === "variant" && p.id === variant.car);
  if (kit?.document !== "kit" || variant?.document !== "variant" || car?.document !== "car") throw new Error(kitId);
  return { car, variant, kit };
}

function mapOf(id: string): CodingMap {
  const found = library.find((p) => p.id === id);
  if (found?.document !== "coding") throw new Error(id);
  return found;
}

/** Words in which every field has a value, zero where nothing is given. */
function wordsWith(map: CodingMap, values: Record<string, number>): Map<string, number[]> {
  return new Map(
    codedWords(map).map(({ ref, word, places }) => [
      ref,
      withFields(word, Array(word.length).fill(0x80), new Map(places.map((p) => [p.field, values[p.ref] ?? 0]))),
    ]),
  );
}

const sister = documents("kestrane-fjell-11-f1", "kestrane-sister-s4");
const fjell = mapOf("kestrane-fjell-11-words");
const delivered = wordsWith(fjell, {
  "gateway.list.cluster": 1,
  "gateway.bus.radioBus": 1,
  "gateway.bus.radioSpeed": 1,
  "radio.sound.speakers": 1,
  "radio.sound.tweeters": 1,
  "radio.sound.volumeOn": 12,
  "radio.vehicle.wheelKeys": 1,
  "radio.vehicle.dimming": 20,
});

describe("the coding of a radio from a sister car", () => {
  const plan = planJob(sister, { choices: null });
  const coding = codingPlan(plan, fjell, delivered);

  it("is listed, found on its bus, and does not watch tweeters that are not there", () => {
    expect(coding.changes.flatMap((c) => c.fields.map((f) => `${f.place.ref}: ${f.from} to ${f.to}`))).toEqual([
      "gateway.list.radio: 0 to 1",
      "gateway.bus.radioBus: 1 to 2",
      "radio.sound.tweeters: 1 to 0",
    ]);
    expect(coding.conflict).toEqual([]);
    expect(coding.unread).toEqual([]);
  });

  it("names what each change is for", () => {
    const why = Object.fromEntries(coding.changes.flatMap((c) => c.fields.map((f) => [f.place.ref, f.why])));
    expect(why["gateway.list.radio"]?.join()).toMatch(/^For Factory picture, .* and .*\.$/);
    expect(why["gateway.bus.radioBus"]).toEqual(["The gateway finds a listed radio only on the bus where it hangs."]);
    expect(why["radio.sound.tweeters"]?.join()).toMatch(/^Else .* stores B1A15, Front tweeter, open circuit\.$/);
  });

  it("predicts the code that comes without it, and none with it", () => {
    const listed = new Map([...delivered, ["gateway.list", withListed(delivered)]]);
    expect(codingPlan(plan, fjell, listed).codesNow?.map((c) => c.code)).toEqual(["B1A15"]);
    expect(coding.codesThen).toEqual([]);
  });

  it("loses a wanted function, earns a code or breaks a dependency with every value that is turned back", () => {
    const after = new Map([...delivered, ...coding.changes.map((c) => [c.word, [...c.after]] as const)]);
    let tried = 0;
    for (const change of coding.changes)
      for (const { place } of change.fields)
        for (const raw of knownValues(place.field)) {
          const bytes = after.get(change.word) ?? [];
          if (raw === fieldValue(place.field, bytes)) continue;
          const other = new Map([
            ...after,
            [change.word, withFields(place.word, bytes, new Map([[place.field, raw]]))],
          ]);
          const harm = coding.decisive.find((d) => d.place.ref === place.ref)?.harm.get(raw);
          const needed = codedWords(fjell)
            .flatMap((w) => w.places)
            .some((p) =>
              p.field.needs?.some(
                (n) =>
                  n.field === place.ref &&
                  !n.is.includes(raw) &&
                  n.with.includes(fieldValue(p.field, other.get(`${p.unit.id}.${p.word.id}`) ?? [])),
              ),
            );
          expect([place.ref, raw, needed || (harm?.functions.length ?? 0) + (harm?.codes.length ?? 0) > 0]).toEqual([
            place.ref,
            raw,
            true,
          ]);
          tried++;
        }
    expect(tried).toBeGreaterThan(3);
  });

  it("never touches a bit that the map does not know", () => {
    const known = new Map(codedWords(fjell).map((w) => [w.ref, w]));
    for (const { word, before, after } of coding.changes) {
      const w = known.get(word);
      const blank = (b: readonly number[]) =>
        withFields(w?.word as never, b, new Map((w?.places ?? []).map((p) => [p.field, 0])));
      expect(blank(after)).toEqual(blank(before));
    }
  });

  it("says which words it does not know yet, and predicts nothing from them", () => {
    const some = new Map([...delivered].filter(([ref]) => ref !== "radio.sound"));
    const partly = codingPlan(plan, fjell, some);
    expect(partly.unread).toEqual([{ word: "radio.sound", fields: ["Tweeters watched"] }]);
    expect(partly.codesNow).toBeNull();
    expect(partly.changes.map((c) => c.word)).toEqual(["gateway.list", "gateway.bus"]);
  });

  it("does not touch what needs a word that nobody has read", () => {
    const some = new Map([...delivered].filter(([ref]) => ref !== "gateway.bus"));
    const partly = codingPlan(plan, fjell, some);
    expect(partly.unread).toEqual([{ word: "gateway.bus", fields: ["Bus of the radio"] }]);
    expect(partly.changes.map((c) => c.word)).toEqual(["radio.sound"]);
    // The list was read and is not as it should: it waits.
    expect([...partly.waiting]).toEqual([["gateway.list", ["Gateway: Buses"]]]);
  });

  it("leaves a car alone that stands as it should", () => {
    const after = new Map([...delivered, ...coding.changes.map((c) => [c.word, c.after] as const)]);
    expect(codingPlan(plan, fjell, after).changes).toEqual([]);
  });
});

describe("a unit that leaves the car with the kit", () => {
  it("is taken out of the list of the gateway; one that was never there is not", () => {
    const plan = planJob(sister, { choices: null });
    const phone = { id: "handsFree", name: "Hands-free unit", type: "device" as const, ports: [] };
    const before = { ...plan, stock: { ...plan.stock, parts: [...plan.stock.parts, phone] } };
    const unit = { id: "phone", name: phone.name, part: phone.id, request: 0x7b0, answer: 0x7b8, words: [] };
    const map = { ...fjell, units: [...fjell.units, { ...unit, listed: { field: "gateway.list.phone", is: [1] } }] };
    const list = codedWords(map).find((w) => w.ref === "gateway.list");
    const field = list?.places.find((p) => p.field.id === "phone")?.field;
    if (!list || !field) throw new Error("no list");
    const words = new Map([
      ...delivered,
      ["gateway.list", withFields(list.word, delivered.get("gateway.list") ?? [], new Map([[field, 1]]))],
    ]);
    const changeOf = (p: typeof plan) =>
      codingPlan(p, map, words)
        .changes.flatMap((c) => c.fields)
        .find((f) => f.place.ref === "gateway.list.phone");
    expect(changeOf(before)).toMatchObject({
      from: 1,
      to: 0,
      why: [expect.stringMatching(/^Hands-free unit leaves the car/)],
    });
    expect(changeOf(plan)).toBeUndefined();
    const stays = { ...before, fitted: { ...before.fitted, parts: [...before.fitted.parts, phone] } };
    expect(changeOf(stays)).toBeUndefined();
  });
});

describe("a radio of level 4", () => {
  it("brings its navigation and its display along, each with its reason", () => {
    const map = mapOf("hollinby-dunlin-16-words");
    const plan = planJob(documents("hollinby-dunlin-16-l1", "hollinby-level-4"), { choices: null });
    const words = wordsWith(map, {
      "gateway.list.radio": 1,
      "gateway.list.climate": 1,
      "display.picture.brightness": 60,
    });
    // Level 1 stands for no value of the setting; the model knows “no” and “yes”.
    const coding = codingPlan(plan, map, words);
    expect(coding.changes.flatMap((c) => c.fields.map((f) => [f.place.ref, f.to]))).toEqual([
      ["gateway.list.radio", 4],
      ["gateway.list.navigation", 1],
      ["display.picture.levels", 1],
    ]);
  });
});

describe("coded words in the log of a job", () => {
  const opened = { car: sister.car, variant: sister.variant, kit: sister.kit };
  const take = { kind: "configure.map" as const, data: { map: { slug: fjell.id, version: 1 } } };
  const hex = hexFromBytes(delivered.get("radio.sound") ?? []);

  it("have no meaning before a coding map of this car is taken", () => {
    expect(refusalOf(jobOf(opened), { kind: "configure.word", data: { word: "radio.sound", hex } }, AT)).toContain(
      "No coding map",
    );
    const other = { kind: "configure.map" as const, data: { map: { slug: "hollinby-dunlin-16-words", version: 1 } } };
    expect(refusalOf(jobOf(opened), other, AT)).toContain("for another car");
    expect(refusalOf(jobOf(opened), take, AT)).toBeNull();
  });

  it.each([
    ["0102", "Some of it is missing"],
    [`${hex} 00`, "too much"],
    [hex.replace(/..$/, "00"), "check byte"],
    ["xyz", "no hexadecimal digit"],
  ])("%j is refused", (text, words) => {
    const job = jobOf(opened, logOf(take));
    expect(refusalOf(job, { kind: "configure.word", data: { word: "radio.sound", hex: text } }, AT)).toContain(words);
  });

  it("say how a setting stands, better than a tick", () => {
    const bytes = delivered.get("radio.sound") ?? [];
    const settings = { ...settingsOfWords(fjell, new Map([["radio.sound", bytes]])) };
    const entered = { word: "radio.sound", bytes, settings, about: ["radio.tweeters"] };
    const job = jobOf(opened, [
      ...logOf(take),
      { id: "w", at: AT, by: "Test", kind: "configure.word", data: entered },
    ] as never);
    expect(job.state.coded.get("radio.tweeters")).toBe("watched");
    expect(codingOf(job)?.words.get("radio.sound")).toEqual(bytes);
    const tick = { kind: "configure.set" as const, data: { setting: "radio.tweeters", done: true } };
    expect(refusalOf(job, tick, AT)).toContain("cannot be ticked");
  });

  it("stand beside what the car itself says of them, for and against", () => {
    const speakers = (raw: number) => {
      const sound = codedWords(fjell).find((w) => w.ref === "radio.sound");
      const field = sound?.places.find((p) => p.field.id === "speakers")?.field;
      if (!sound || !field) throw new Error("no loudspeakers");
      const bytes = withFields(sound.word, delivered.get("radio.sound") ?? [], new Map([[field, raw]]));
      const entered = { word: "radio.sound", bytes, settings: {}, about: [] };
      const job = jobOf(opened, [
        ...logOf(take),
        { id: "w", at: AT, by: "Test", kind: "configure.word", data: entered },
      ] as never);
      const word = codingView(job)?.words.find((w) => w.ref === "radio.sound");
      return word?.groups.flatMap((g) => g.fields).find((f) => f.ref === "radio.sound.speakers");
    };
    expect(speakers(1)).toMatchObject({ value: "four", facts: [{ because: "the car has no tweeters", agrees: true }] });
    expect(speakers(2)).toMatchObject({ value: "four and tweeters", facts: [{ agrees: false }] });
  });
});

function withListed(words: Map<string, number[]>): number[] {
  const { word, places } = codedWords(fjell).find((w) => w.ref === "gateway.list") ?? (null as never);
  const field = places.find((p) => p.field.id === "radio")?.field as never;
  return withFields(word, words.get("gateway.list") ?? [], new Map([[field, 1]]));
}
