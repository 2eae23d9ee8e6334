import { type PlugEvent, type PlugLog, plugChoices, tooSoon } from "../../../configure/programming-plug";
import { asAsked, type Kind, refuse } from "../../kind";

export interface PlugEventSlice {
  plugEvents: PlugLog[];
}

/** Something done with the programming plug, or seen on its lamp. */
export const plugEvent: Kind<"configure.plug", { event: PlugEvent }, PlugEventSlice> = {
  kind: "configure.plug",
  empty: () => ({ plugEvents: [] }),
  fold(state, { data, at }) {
    state.plugEvents = [...state.plugEvents, { event: data.event, at }];
  },
  check(job, { event }) {
    const found = job.programmingPlug();
    if (!found) return refuse("programming plug", "This kit has no programming plug.", "Nothing is to be done here.");
    const { plug, state } = found;
    if (!plugChoices(state).includes(event))
      return refuse("programming plug", "That does not follow from how it stands now.", "Load the page again.");
    const why = tooSoon(plug, state, event, job.at);
    return why ? refuse("programming plug", why, "Then go on.") : null;
  },
  write: asAsked,
  words: ({ event }) => `Programming plug: ${EVENT_WORDS[event]}`,
  upgrade: [],
};

const EVENT_WORDS: Readonly<Record<PlugEvent, string>> = {
  ignition: "ignition on",
  pluggedIn: "plugged in",
  dark: "lamp stays dark",
  writing: "it writes",
  finished: "finished, may come out",
  refused: "it refuses",
  pulledOut: "taken out",
  rested: "off and on again",
};
