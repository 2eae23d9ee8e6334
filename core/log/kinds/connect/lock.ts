import { asAsked, type Kind, refuse, unknown } from "../../kind";
import type { PlugSlice } from "./plug";

/** The lock bar of a ribbon: shut after the ribbon is home, open before it comes out. */
export const lock: Kind<
  "connect.lock",
  { link: string; shut: boolean },
  object,
  { link: string; shut: boolean },
  Pick<PlugSlice, "locked">
> = {
  kind: "connect.lock",
  empty: () => ({}),
  fold(state, { data }) {
    if (data.shut) state.locked.add(data.link);
    else state.locked.delete(data.link);
  },
  check(job, { link, shut }) {
    const connection = job.connection(link);
    if (!connection) return unknown("connection", link);
    if (!connection.ribbon) return refuse(connection.name, "This plug has no lock bar.", "Nothing is to be done here.");
    return shut && !job.state.plugged.has(link)
      ? refuse(connection.name, "The ribbon is not in yet.", "Push it home first, evenly up to its line.")
      : null;
  },
  write: asAsked,
  words: ({ link, shut }, job) =>
    `${job.connection(link)?.name ?? "A ribbon that is no longer in the plan"}: lock bar ${shut ? "shut" : "open"}`,
  upgrade: [],
};
