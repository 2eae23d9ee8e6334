import { type CodingMap, codedWords } from "../coding/map";
import type { Gap } from "./gap";

/** What a coding map leaves open: units without words, words whose bits nobody knows, fields that say nothing to the model. */
export function codingCoverage(map: CodingMap): Gap[] {
  const gap = (say: string, remedy: string): Gap => ({ kind: "setting", say, remedy, field: "units" });
  const words = codedWords(map).filter(({ unit }) => !unit.locked);
  const silent = map.units.filter((u) => !u.locked && u.words.length === 0);
  return [
    ...silent.map((u) =>
      gap(`${u.name} has no coded word`, "Enter its words, or leave it as one that is only scanned."),
    ),
    ...words.flatMap(({ unit, word }) => {
      const known = word.fields.reduce((sum, f) => sum + f.width, 0) + (word.checksum ? 8 : 0);
      const open = 8 * word.length - known;
      return open > 0
        ? [
            gap(
              `${unit.name}, ${word.name}: ${open} of ${8 * word.length} bits are not known`,
              "They never change; enter those whose meaning is known.",
            ),
          ]
        : [];
    }),
    ...words.flatMap(({ unit, word }) =>
      word.fields.some((f) => f.setting || f.facts || f.needs)
        ? []
        : [
            gap(
              `${unit.name}, ${word.name}: nothing ties it to the car`,
              "Name the setting, a fact or a dependency of a field, so that it can be judged.",
            ),
          ],
    ),
  ];
}
