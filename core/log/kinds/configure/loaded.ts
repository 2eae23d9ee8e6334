import { type Kind, refuse, type Stamped, unknown } from "../../kind";

/** What the label of a module, or the computer on which it was loaded, says of the data in it. */
interface Seen {
  /** `part.setting` of the kit that the loading brings. */
  setting: string;
  what: "blank" | "loaded";
  /** Identification number of the car it is for, or its end; empty when nothing says so. */
  identification: string;
  /** Name and version of the data, as shown; may stay empty. */
  data: string;
}

interface Asked extends Seen {
  /** What was loaded is the translation of this job. */
  translation: boolean;
}

interface LoadedData extends Seen {
  /** Entry of the translation that was loaded; null for data from elsewhere. */
  translation: string | null;
  /** Whether that is the car of the job. */
  car: "this" | "another" | "notKnown";
}

export interface LoadedSlice {
  /** By setting, the last news. */
  loads: Map<string, LoadedData & Pick<Stamped<unknown>, "at" | "by">>;
}

/** A number that is shown by its end has at least so many characters. */
const SHORTEST_END = 6;

/** A module was looked at, or loaded, before it is fitted. */
export const loaded: Kind<"configure.loaded", LoadedData, LoadedSlice, Asked> = {
  kind: "configure.loaded",
  empty: () => ({ loads: new Map() }),
  fold(state, { data, at, by }) {
    state.loads.set(data.setting, { ...data, at, by });
  },
  asked: ({ car: _, translation, ...seen }) => ({ ...seen, translation: translation !== null }),
  check(job, { setting, what, identification, translation }) {
    const found = job.setting(setting);
    if (!found) return unknown("setting", setting);
    if (found.means !== "programming")
      return refuse("module", "This is not loaded on a computer.", "Tick it where it is made.");
    if (translation && (job.state.translation?.rules.length ?? 0) === 0)
      return refuse("translation", "This job has no translation yet.", "Write it under Bus, Translation.");
    if (translation && (found.told.length === 0 || what === "blank"))
      return refuse("translation", "This module takes no translation.", "Load it with the data of its maker.");
    const end = plain(identification);
    return end !== "" && end.length < SHORTEST_END
      ? refuse(
          "identification number",
          `“${identification}” is too short to tell one car from another.`,
          `Enter the whole number, or at least its last ${SHORTEST_END} characters.`,
        )
      : null;
  },
  write(job, { translation, ...asked }) {
    if (translation)
      return {
        ...asked,
        identification: job.state.car.identification,
        car: "this",
        translation: job.state.translation?.entry ?? null,
      };
    const own = plain(job.state.car.identification);
    const end = plain(asked.identification);
    const car = own === "" || end === "" ? "notKnown" : own.endsWith(end) ? "this" : "another";
    return { ...asked, car, translation: null };
  },
  words({ setting, what, identification, data, car, translation }, job) {
    const name = job.setting(setting)?.name ?? setting;
    if (translation) return `${name}: loaded with the translation of this job`;
    if (what === "blank") return `${name}: the module is blank`;
    const told = [data, identification && `for ${identification}`].filter(Boolean).join(", ");
    const whose = { this: "this car", another: "another car", notKnown: "for which car is not known" }[car];
    return `${name}: loaded, ${[told, whose].filter(Boolean).join(", ")}`;
  },
  upgrade: [(old: Omit<LoadedData, "translation">) => ({ ...old, translation: null })],
};

function plain(identification: string): string {
  return identification.toUpperCase().replace(/[^A-Z0-9]/g, "");
}
