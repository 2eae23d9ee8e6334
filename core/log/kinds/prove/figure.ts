import { FIGURES, type FigureName } from "../../../model/figures";
import { asAsked, type Kind, type Noted, noted, refuse, unknown } from "../../kind";

interface FigureData {
  /** A part, or `car`. */
  of: string;
  figure: FigureName;
  /** In the unit of its name; null: taken back. */
  value: number | null;
}

interface FigureSlice {
  /** Measured on this car, by `part.figure`. */
  figures: Map<string, Noted<number>>;
}

/** A figure was measured on the car, because no document says it or because it is otherwise here. */
export const figure: Kind<"prove.figure", FigureData, FigureSlice> = {
  kind: "prove.figure",
  empty: () => ({ figures: new Map() }),
  fold(state, entry) {
    const { of, figure: name, value } = entry.data;
    if (value === null) state.figures.delete(`${of}.${name}`);
    else state.figures.set(`${of}.${name}`, noted(value, entry));
  },
  check(job, { of, figure: name, value }) {
    const words = job.figure(of, name);
    if (words === null) return unknown("part", of);
    const { min, max, unit } = FIGURES[name];
    return value === null || (value >= min && value <= max)
      ? null
      : refuse(
          words,
          `It lies between ${min} and ${max} ${unit}.`.replace(" .", "."),
          "Measure it again and look at the unit.",
        );
  },
  write: asAsked,
  words({ of, figure: name, value }, job) {
    const { label, unit } = FIGURES[name];
    return `${job.figure(of, name) ?? label}: ${value === null ? "taken back" : `${value} ${unit}`.trim()}`;
  },
  upgrade: [],
};
