import { asAsked, type Kind } from "../../kind";
import type { Differs, StripSlice } from "../../strip-journal";
import { missingPhoto } from "../photo";

interface NoteData {
  step: string;
  note: string;
  photo?: string;
  differs?: Differs;
}

export const note: Kind<"strip.note", NoteData, StripSlice<"notes">> = {
  kind: "strip.note",
  empty: () => ({ strip: { notes: [] } }),
  fold({ strip }, { data, at, by, entry }) {
    strip.notes.push({ ...data, at, by, entry });
  },
  check: (job, data) => job.editRefusal({ kind: "strip.note", data }) ?? missingPhoto(job, data.photo),
  write: asAsked,
  words({ step, note, photo, differs }, job) {
    const more = [note && `“${note}”`, photo && "a photo", differs && "differs from the plan"].filter(Boolean);
    return `Note on ${job.step(step) ?? "a step"}: ${more.join(", ")}`;
  },
  upgrade: [],
};
