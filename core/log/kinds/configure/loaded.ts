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

interface LoadedData extends Seen {
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
export const loaded: Kind<"configure.loaded", LoadedData, LoadedSlice, Seen> = {
  kind: "configure.loaded",
  empty: () => ({ loads: new Map() }),
  fold(state, { data, at, by }) {
    state.loads.set(data.setting, { ...data, at, by });
  },
  check(job, { setting, identification }) {
    const found = job.setting(setting);
    if (!found) return unknown("setting", setting);
    if (found.means !== "programming")
      return refuse("module", "This is not loaded on a computer.", "Tick it where it is made.");
    const end = plain(identification);
    return end !== "" && end.length < SHORTEST_END
      ? refuse(
          "identification number",
          `“${identification}” is too short to tell one car from another.`,
          `Enter the whole number, or at least its last ${SHORTEST_END} characters.`,
        )
      : null;
  },
  write(job, asked) {
    const own = plain(job.state.car.identification);
    const end = plain(asked.identification);
    const car = own === "" || end === "" ? "notKnown" : own.endsWith(end) ? "this" : "another";
    return { ...asked, car };
  },
  words({ setting, what, identification, data, car }, job) {
    const name = job.setting(setting)?.name ?? setting;
    if (what === "blank") return `${name}: the module is blank`;
    const told = [data, identification && `for ${identification}`].filter(Boolean).join(", ");
    const whose = { this: "this car", another: "another car", notKnown: "for which car is not known" }[car];
    return `${name}: loaded, ${[told, whose].filter(Boolean).join(", ")}`;
  },
  upgrade: [],
};

function plain(identification: string): string {
  return identification.toUpperCase().replace(/[^A-Z0-9]/g, "");
}
