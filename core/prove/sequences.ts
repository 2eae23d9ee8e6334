/**
 * Things that go wrong only one after the other: key off and on, the start of the engine, reverse during the phone
 * picture, the phone away and back, a call during guidance. What must be seen at each step is what the model shows there.
 */
import { Model } from "../model/outcome";
import type { ContactRef, Settings, Situation, System } from "../model/types";
import { BEGIN } from "./sequence-sights";
import type { Test } from "./tests";

export interface SequenceStep {
  id: string;
  say: string;
  /** What must be seen or heard, in words. */
  must: string;
  /** Any of these pictures is right; null: something is heard instead. */
  pictures: string[] | null;
  situation: Situation;
  /** The test that looks at the same thing: it fails where the sequence breaks. */
  test: string | null;
}

export interface Sequence {
  id: string;
  name: string;
  caution: string | null;
  steps: SequenceStep[];
}

interface Plan {
  id: string;
  name: string;
  caution?: string;
  steps: {
    id: string;
    say: string;
    set: Partial<Situation>;
    /** The picture may be either of this or the other mode. */
    orFactory?: true;
    /** Something to hear: the test of it, and in words. */
    hear?: { test: Test; must: string };
  }[];
}

const FOOT = "Foot on the brake, nobody before or behind the car.";

/** The glass on which pictures are looked at; null for a car without a screen. */
export function glassOf({ functions }: Pick<System, "functions">): ContactRef | null {
  return functions.flatMap((f) => f.observe).find((o) => o.where.picture !== undefined)?.at ?? null;
}

/** Stands for a glass on which nothing is. */
const DARK = "dark";

/** Pictures that stand on the glass in a situation, or that it is dark. */
export function picturesAt(model: Model, glass: ContactRef, situation: Situation, settings?: Settings): string[] {
  const arrivals = model.evaluate(situation, settings).arrivals(glass);
  const pictures = new Set(arrivals.map(({ signal }) => String(signal.attributes.picture)));
  return pictures.size > 0 ? [...pictures] : [DARK];
}

/** Every sequence that can be tried on a car as it is planned. */
export function sequences(system: System, settings: Settings, tests: readonly Test[]): Sequence[] {
  const glass = glassOf(system);
  if (!glass) return [];
  const model = new Model(system, {}, settings);
  const shown = tests.find((t) => t.fn.observe.some((o) => o.where.picture === "phone"));
  return plans(system, tests, shown).map(({ id, name, caution, steps }) => ({
    id,
    name,
    caution: caution ?? null,
    steps: steps.map(({ set, hear, orFactory, ...step }): SequenceStep => {
      const situation = { ...system.defaultSituation, ...set };
      if (hear) return { ...step, must: hear.must, pictures: null, situation, test: hear.test.id };
      const either = orFactory ? picturesAt(model, glass, { ...situation, pictureMode: "factory" }) : [];
      const pictures = [...new Set([...picturesAt(model, glass, situation), ...either])].sort();
      return { ...step, pictures, situation, must: pictureWords(pictures), test: sameLook(tests, pictures, situation) };
    }),
  }));
}

function plans(system: System, tests: readonly Test[], shown: Test | undefined): Plan[] {
  if (!shown) return [];
  const { phone, source } = shown.situation;
  const on: Partial<Situation> = { key: "on", pictureMode: "phone", phone, source };
  const toggle = system.actions.find((a) => a.set.pictureMode === "phone")?.say ?? "Choose the phone picture";
  const begin = { id: BEGIN, say: `Phone picture on the screen. ${toggle}`, set: on };
  const factory = {
    id: BEGIN,
    say: "Factory picture on the screen",
    set: { ...on, pictureMode: "factory" as const },
  };
  const reversed = tests.some((t) => t.situation.selector === "R" && t.fn.observe.some((o) => o.where.picture));
  const sound = tests.find((t) => t.fn.observe.some((o) => o.where.sound === "phone"));
  const voice = tests.find((t) => t.fn.observe.some((o) => o.where.sound === "voice" || o.at.includes("voice")));
  return [
    {
      id: "keyCycle",
      name: "Key off and on",
      steps: [
        begin,
        { id: "off", say: "Key off, open the door, wait half a minute", set: { ...on, key: "off" } },
        { id: "on", say: "Key on", set: on, orFactory: true },
        { id: "again", say: `${toggle}, unless it is there already`, set: on },
      ],
    },
    {
      id: "start",
      name: "Start of the engine",
      caution: FOOT,
      steps: [
        begin,
        {
          id: "running",
          say: "Start the engine and wait ten seconds",
          set: { ...on, key: "running" },
          orFactory: true,
        },
        { id: "again", say: `${toggle}, unless it is there already`, set: { ...on, key: "running" } },
      ],
    },
    ...(reversed ? [reverseIn("phone", begin, on), reverseIn("factory", factory, factory.set)] : []),
    {
      id: "phoneAway",
      name: "Phone away and back",
      steps: [
        begin,
        {
          id: "away",
          say: phone === "wired" ? "Pull the cable" : "Take the phone out of the car, or its wireless off",
          set: { ...on, phone: "none" },
          orFactory: true,
        },
        {
          id: "back",
          say: phone === "wired" ? "Plug the cable in again" : "Bring the phone back",
          set: on,
          orFactory: true,
        },
        { id: "again", say: `${toggle}, unless it is there already`, set: on },
      ],
    },
    ...(sound && voice
      ? [
          {
            id: "call",
            name: "Call during guidance",
            steps: [
              {
                id: BEGIN,
                say: "Start guidance on the phone and let it speak",
                set: sound.situation,
                hear: { test: sound, must: "The voice of the guidance on the car's loudspeakers" },
              },
              {
                id: "call",
                say: "Let somebody call, and take the call",
                set: voice.situation,
                hear: { test: voice, must: "The caller on the loudspeakers, and the caller hears you" },
              },
              {
                id: "after",
                say: "End the call",
                set: sound.situation,
                hear: { test: sound, must: "Guidance and music come back by themselves" },
              },
            ],
          },
        ]
      : []),
  ];
}

/** Reverse comes and leaves, by day and in the dark. */
function reverseIn(mode: "phone" | "factory", begin: Plan["steps"][number], on: Partial<Situation>): Plan {
  return {
    id: mode === "phone" ? "reverse" : "reverseFactory",
    name: `Reverse during the ${mode} picture`,
    caution: FOOT,
    steps: [
      begin,
      { id: "reverse", say: "Select reverse", set: { ...on, selector: "R" } },
      { id: "drive", say: "Select drive", set: { ...on, selector: "D", leftReverse: true } },
      { id: "park", say: "Select park and wait half a minute", set: on },
      { id: "dark", say: "Lights on, and reverse in a dark place", set: { ...on, selector: "R", lights: true } },
      { id: "lit", say: "Select park, lights still on", set: { ...on, lights: true } },
    ],
  };
}

/** The test that looks for one of the pictures with car and phone standing the same way. */
function sameLook(tests: readonly Test[], pictures: readonly string[], at: Situation): string | null {
  const same = tests.filter(
    ({ fn, situation }) =>
      fn.observe.some((o) => pictures.includes(String(o.where.picture))) &&
      situation.selector === at.selector &&
      situation.leftReverse === at.leftReverse &&
      situation.speedKmh === at.speedKmh,
  );
  const closest = same.find((t) => t.situation.pictureMode === at.pictureMode) ?? same[0];
  return closest?.id ?? null;
}

function pictureWords(pictures: readonly string[]): string {
  const words: Record<string, string> = {
    factory: "factory picture",
    phone: "phone picture",
    [DARK]: "no phone picture",
  };
  return pictures.map((p) => words[p] ?? p).join(" or ");
}
