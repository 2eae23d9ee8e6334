import { Lock } from "lucide";
import { ScrollX, Section } from "~/app/components/controls";
import type { CodedField, CodedUnit, CodedWord, CodingMap } from "~/core/coding/map";
import { LOCKED_WORDS } from "~/core/coding/map";
import { fieldBits, hexFromBytes } from "~/core/coding/word";
import { Icon } from "../icon";

/** A coding map to read: each unit with its words, each word with what its bits mean. */
export function CodedUnits({ map }: { map: CodingMap }) {
  return (
    <>
      {map.units.map((unit) => (
        <Section key={unit.id} title={unit.name} id={unit.id} aside={addressWords(unit)}>
          {unit.locked && (
            <p className="mb-2 flex items-center gap-2">
              <Icon of={Lock} size={18} /> Never written here: {LOCKED_WORDS[unit.locked]}.
            </p>
          )}
          {unit.words.map((word) => (
            <WordTable key={word.id} word={word} />
          ))}
          {unit.words.length === 0 && !unit.locked && <p className="text-quiet">No coded word is known.</p>}
        </Section>
      ))}
    </>
  );
}

function addressWords({ request, answer, extended }: CodedUnit): string {
  const id = (n: number) =>
    n
      .toString(16)
      .toUpperCase()
      .padStart(extended ? 8 : 3, "0");
  return `asked on ${id(request)}, answers on ${id(answer)}`;
}

function WordTable({ word }: { word: CodedWord }) {
  return (
    <ScrollX label={word.name}>
      <table className="mb-4 w-full min-w-[40rem]">
        <caption className="pb-1 text-left">
          <strong>{word.name}</strong>{" "}
          <span className="text-quiet">
            data identifier {hexFromBytes([word.identifier >> 8, word.identifier & 0xff])}, {word.length} bytes
            {word.checksum && `, check byte ${word.checksum.byte} (${word.checksum.kind})`}
          </span>
        </caption>
        <thead>
          <tr className="text-left text-sm text-quiet">
            <th scope="col" className="py-1.5 pr-4 font-normal">
              About
            </th>
            <th scope="col" className="py-1.5 pr-4 font-normal">
              Field
            </th>
            <th scope="col" className="py-1.5 pr-4 font-normal">
              Byte and bits
            </th>
            <th scope="col" className="py-1.5 font-normal">
              Values
            </th>
          </tr>
        </thead>
        <tbody>
          {word.fields.map((f) => (
            <tr key={f.id} className="border-t border-rule align-top">
              <td className="py-1.5 pr-4">{f.about}</td>
              <th scope="row" className="py-1.5 pr-4 text-left font-medium">
                {f.label}
              </th>
              <td className="num py-1.5 pr-4">{bitsText(f)}</td>
              <td className="py-1.5">{valuesText(f)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </ScrollX>
  );
}

/** For example `2, bits 0 to 3`; a field over several bytes says where it goes on. */
function bitsText(field: CodedField): string {
  const bits = fieldBits(field);
  const [first = 0, last = 0] = [bits[0], bits.at(-1)];
  if (first >> 3 === last >> 3)
    return `${first >> 3}, ${first === last ? `bit ${first & 7}` : `bits ${first & 7} to ${last & 7}`}`;
  return `${first >> 3}, bit ${first & 7}, to ${last >> 3}, bit ${last & 7}`;
}

function valuesText({ values, number }: CodedField): string {
  if (values) return values.map((v) => `${v.raw}: ${v.label}`).join(", ");
  return number ? `× ${number.factor} + ${number.offset} ${number.unit}` : "";
}
