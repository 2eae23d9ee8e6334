import { asAsked, type Kind } from "../../kind";
import type { AddedStep, StripSlice } from "../../strip-journal";

export const add: Kind<"strip.add", AddedStep, StripSlice<"added">> = {
  kind: "strip.add",
  empty: () => ({ strip: { added: [] } }),
  fold({ strip }, { data }) {
    if (!strip.added.some((a) => a.id === data.id)) strip.added.push(data);
  },
  check: (job, data) => job.editRefusal({ kind: "strip.add", data }),
  write: asAsked,
  words: ({ title }) => `Step added: ${title}`,
  upgrade: [],
};
