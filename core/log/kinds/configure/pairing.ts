import type { PairingAct, PairingState } from "../../../configure/pairing";
import { TROUBLES } from "../../../configure/pairing-troubles";
import { asAsked, type Kind, type Refusal, refuse, unknown } from "../../kind";

type PairingData = { phone: string } & PairingAct;

export interface PairingSlice {
  pairing: readonly PairingData[];
}

/** The first pairing of a phone: what was done and what was seen, step by step. */
export const pairing: Kind<"configure.pairing", PairingData, PairingSlice> = {
  kind: "configure.pairing",
  empty: () => ({ pairing: [] }),
  fold(state, { data }) {
    state.pairing = [...state.pairing, data];
  },
  check(job, data) {
    const known = job.phones();
    if (!known) return refuse("phone", "The leaflet of this kit says nothing about phones.", "Nothing is to be noted.");
    const phone = known.phones.find((p) => p.phone === data.phone);
    if (data.act !== "begin")
      return phone
        ? unfit(phone, data)
        : refuse(data.phone, "Its pairing was not begun.", "Begin with the phone first.");
    return data.family !== null && !known.families.some((f) => f.id === data.family)
      ? unknown("phone family", data.family)
      : null;
  },
  write: asAsked,
  words(data, job) {
    const step = (id: string) =>
      job
        .phones()
        ?.phones.find((p) => p.phone === data.phone)
        ?.steps.find((s) => s.id === id)?.title ?? id;
    switch (data.act) {
      case "begin": {
        const family = job.phones()?.families.find((f) => f.id === data.family);
        return `${data.phone}: first pairing begun${family ? `, ${family.name}` : ""}`;
      }
      case "seen":
        return `${data.phone}: ${step(data.step)}: as it should`;
      case "trouble":
        return `${data.phone}: ${step(data.step)}: ${TROUBLES[data.trouble].seen.toLowerCase()}`;
      case "again":
        return `${data.phone}: remedy done, tried again`;
      case "dropped":
        return `${data.phone}: not paired here`;
    }
  },
  upgrade: [],
};

/** Why an act does not follow from where a phone stands. */
function unfit(phone: PairingState, data: PairingData): Refusal | null {
  const stale = refuse(data.phone, "That does not follow from how far it is.", "Load the page again.");
  if (data.act === "again") return phone.trouble ? null : stale;
  if (data.act !== "seen" && data.act !== "trouble") return null;
  if (phone.trouble || phone.step?.id !== data.step) return stale;
  return data.act === "seen" || phone.step.troubles.includes(data.trouble) ? null : stale;
}
