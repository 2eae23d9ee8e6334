import { JOINTS } from "../../../connect/joints";
import { asAsked, type Kind, refuse, unknown } from "../../kind";
import type { StripSlice } from "../../strip-journal";

interface PlugData {
  link: string;
  plugged: boolean;
  /** Place in which it sits, where that is not the planned one. */
  at?: string;
  /** It sits the other way round. */
  turned?: boolean;
}

export interface PlugSlice {
  plugged: Set<string>;
  /** How many step events there were when a plug went in: a later step may have opened it again. */
  pluggedAfter: Map<string, number>;
  /** Where a lead sits when that is not its planned place, by connection. */
  plugAt: Map<string, string>;
  /** Connections whose plug sits the other way round. */
  turned: Set<string>;
  /** Ribbons whose lock bar was shut since they went in. */
  locked: Set<string>;
}

export const plug: Kind<"connect.plug", PlugData, PlugSlice, PlugData, PlugSlice & StripSlice<"stepEvents">> = {
  kind: "connect.plug",
  empty: () => ({
    plugged: new Set(),
    pluggedAfter: new Map(),
    plugAt: new Map(),
    turned: new Set(),
    locked: new Set(),
  }),
  fold(state, { data }) {
    state.plugAt.delete(data.link);
    state.turned.delete(data.link);
    state.locked.delete(data.link);
    if (!data.plugged) {
      state.plugged.delete(data.link);
      return;
    }
    state.plugged.add(data.link);
    state.pluggedAfter.set(data.link, state.strip.stepEvents.length);
    if (data.at) state.plugAt.set(data.link, data.at);
    if (data.turned) state.turned.add(data.link);
  },
  check(job, { link, at, plugged, turned }) {
    const connection = job.connection(link);
    if (!connection) return unknown("connection", link);
    if (plugged && connection.awaitsFeed)
      return refuse(
        connection.name,
        `${connection.name}: take a fuse position first, in Connect under Feed.`,
        "The tester says which one may be used.",
      );
    if (turned && !connection.reversible)
      return refuse(
        connection.name,
        `${connection.name}: this plug goes in one way only.`,
        "Look at its keying again.",
      );
    return at !== undefined && !connection.places.includes(at) ? unknown("place", at) : null;
  },
  write: asAsked,
  says: ({ link, plugged, at = "", turned = false }) => ({ [link]: `${plugged} ${at} ${turned}` }),
  words({ link, plugged, at, turned }, job) {
    const name = job.connection(link)?.name ?? "A connection that is no longer in the plan";
    if (!plugged) return `${name}: out again`;
    const joint = job.connection(link)?.joint;
    return `${name}: ${joint ? JOINTS[joint].logged : "plugged"}${at ? ", in another place" : ""}${turned ? ", turned over" : ""}`;
  },
  upgrade: [],
};
