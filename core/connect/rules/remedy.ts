import { composeFitted, conditionTest, resolveChoices } from "../../model/compose";
import { ComposeError } from "../../model/errors";
import { askedChoices } from "../../model/kit-condition";
import type { KitSetting, VariantProfile } from "../../model/profile";
import type { CheckInput, Finding } from "./finding";
import { checkConnections } from "./index";

/** Something that could be done, and what the check says once it is. */
export interface Candidate {
  fix: NonNullable<Finding["fix"]>;
  after: Finding[];
}

/**
 * Adds a remedy to log where there is only one: every candidate is tried, and the one that takes the finding away
 * without bringing another stop is it.
 */
export function withRemedies(
  findings: readonly Finding[],
  input: CheckInput,
  candidates: (input: CheckInput) => Candidate[],
): Finding[] {
  const wanting = findings.filter((f) => !f.fix && f.level !== "note");
  if (wanting.length === 0) return [...findings];
  const before = new Set(checkConnections(input).map(key));
  const harmless = candidates(input).filter((c) => !c.after.some((x) => x.level === "stop" && !before.has(key(x))));
  return findings.map((f) => {
    if (!wanting.includes(f)) return f;
    const good = harmless.filter((c) => !c.after.some((x) => key(x) === key(f)));
    const [only] = good;
    return only && good.length === 1 ? { ...f, fix: only.fix } : f;
  });
}

const key = (f: Finding) => `${f.rule} ${f.where}`;

/** Settings of the kit that are not made yet: those in `input.open.settings`. */
export function bySettings(input: CheckInput, sets: readonly KitSetting[]): Candidate[] {
  const notMade = input.open.settings ?? {};
  return sets
    .filter((s) => s.setting in notMade)
    .map((s) => {
      const { [s.setting]: _, ...rest } = notMade;
      return {
        fix: { say: `Done: ${s.say}`, press: [{ kind: "configure.set", data: { setting: s.setting, done: true } }] },
        after: checkConnections({ ...input, open: { ...input.open, settings: rest } }),
      };
    });
}

/** Every other option of every choice of the kit. */
export function byChoices(input: CheckInput, variant: VariantProfile): Candidate[] {
  const { kit, car, stock, choices } = input;
  return askedChoices(kit, choices).flatMap((choice) =>
    choice.options
      .filter((o) => o.id !== choices[choice.id])
      .flatMap((option): Candidate[] => {
        const other = resolveChoices(kit, { ...choices, [choice.id]: option.id });
        try {
          const system = composeFitted(car, variant, kit, other);
          const after = checkConnections({
            ...input,
            system,
            choices: other,
            applies: conditionTest(car, stock, other),
          });
          return [
            {
              fix: {
                say: `Choose for ${choice.label.toLowerCase()}: ${option.label}`,
                press: [{ kind: "fit.confirm", data: { choices: { ...other } } }],
              },
              after,
            },
          ];
        } catch (error) {
          // An option that does not go with this car is no remedy.
          if (error instanceof ComposeError) return [];
          throw error;
        }
      }),
  );
}
