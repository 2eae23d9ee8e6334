import { asAsked, type Kind, unknown } from "../../kind";

/** States in which a tester is held to a fuse position, in the order of the test. */
export const TEST_STATES = ["off", "accessory", "on", "start", "doorOpen"] as const;
export type TestState = (typeof TEST_STATES)[number];
export const TEST_WORDS: Record<TestState, string> = {
  off: "Key off, car asleep",
  accessory: "Key on accessory",
  on: "Ignition on",
  start: "Start button pressed, engine cranking",
  doorOpen: "Key off again, driver's door opened",
};
/** What the tester said at one position. */
export type Lit = Partial<Record<TestState, boolean>>;

interface FeedTestData {
  position: string;
  state: TestState;
  lit: boolean;
}

export const feedTest: Kind<"connect.feedTest", FeedTestData, { feedTests: Map<string, Lit> }> = {
  kind: "connect.feedTest",
  empty: () => ({ feedTests: new Map() }),
  fold(state, { data }) {
    state.feedTests.set(data.position, { ...state.feedTests.get(data.position), [data.state]: data.lit });
  },
  check: (job, { position }) => (job.position(position) ? null : unknown("fuse position", position)),
  write: asAsked,
  words: ({ position, state, lit }, job) =>
    `Tester at ${job.position(position)?.name ?? position}, ${TEST_WORDS[state].toLowerCase()}: ${lit ? "lit" : "dark"}`,
  upgrade: [],
};
