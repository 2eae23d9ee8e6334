import { asAsked, type Kind } from "../kind";

interface DespiteData {
  /** The entry that is written against the warning. */
  entry: string;
  guard: string;
  reason: string;
}

export interface DespiteSlice {
  /** Reasons by `entry guard`. */
  despite: Map<string, { reason: string; by: string }>;
}

/** Why something is done against a warning, by whom. */
export const despite: Kind<"despite", DespiteData, DespiteSlice> = {
  kind: "despite",
  empty: () => ({ despite: new Map() }),
  fold(state, { data, by }) {
    state.despite.set(despiteKey(data), { reason: data.reason, by });
  },
  check: () => null,
  write: asAsked,
  words: ({ reason }) => `Done against a warning: ${reason}`,
  upgrade: [],
};

export function despiteKey({ entry, guard }: Pick<DespiteData, "entry" | "guard">): string {
  return `${entry} ${guard}`;
}
