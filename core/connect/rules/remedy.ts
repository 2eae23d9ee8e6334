import { composeFitted, conditionTest, resolveChoices } from "../../model/compose";
import { ComposeError } from "../../model/errors";
import type { KitSetting, VariantProfile } from "../../model/profile";
import type { CheckInput, Finding } from "./finding";
import { checkConnections } from "./index";

interface Candidate {
  fix: NonNullable<Finding["fix"]>;
  /** What the check says once it is done. */
  after: Finding[];
}

/**
 * Adds a remedy to log where there is only one: every other option of every choice and every setting that is not made
 * yet is tried, and the one that takes the finding away without bringing another stop is it.
 *
 * @param sets settings of the kit; those in `input.open.settings` are not made yet
 */
export function withRemedies(
  findings: readonly Finding[],
  input: CheckInput,
  variant: VariantProfile,
  sets: readonly KitSetting[],
): Finding[] {
  const wanting = findings.filter((f) => !f.fix && f.level !== "note");
  if (wanting.length === 0) return [...findings];
  const candidates = [...bySettings(input, sets), ...byChoices(input, variant)];
  const stops = count(findings);
  return findings.map((f) => {
    if (!wanting.includes(f)) return f;
    const good = candidates.filter((c) => !c.after.some((x) => same(x, f)) && count(c.after) <= stops);
    const [only] = good;
    return only && good.length === 1 ? { ...f, fix: only.fix } : f;
  });
}

const same = (a: Finding, b: Finding) => a.rule === b.rule && a.place === b.place;
const count = (findings: readonly Finding[]) => findings.filter((f) => f.level === "stop").length;

function bySettings(input: CheckInput, sets: readonly KitSetting[]): Candidate[] {
  const notMade = input.open.settings ?? {};
  return sets
    .filter((s) => s.setting in notMade)
    .map((s) => {
      const { [s.setting]: _, ...rest } = notMade;
      return {
        fix: { say: `Done: ${s.say}`, entries: [{ kind: "configure.set", data: { setting: s.setting, done: true } }] },
        after: checkConnections({ ...input, open: { ...input.open, settings: rest } }),
      };
    });
}

function byChoices(input: CheckInput, variant: VariantProfile): Candidate[] {
  const { kit, car, stock, choices } = input;
  return kit.choices.flatMap((choice) =>
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
                entries: [{ kind: "fit.confirm", data: { choices: { ...other } } }],
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
