/** The fault memory of a stand-in car as a reader prints it: one memory, asked by text or by its control units. */
import type { CodingMap } from "../core/coding/map";
import { codesFromAnswer } from "../core/intake/fault-codes";
import type { JobPlan } from "../core/job/plan";
import type { JobState } from "../core/log/entry";
import { predictedCodes } from "../core/model/monitors";
import { asItStands, standInCar } from "./bench";
import { newUnits, type StandInUnits, storedCodes } from "./control-units";
import { CONFIRMED, OLD_CODES, oldCodes } from "./old-codes";

/** What a scan is made of. */
export interface Scanned {
  plan: JobPlan;
  state: JobState;
  /** Fault that the car hides. */
  fault: string | null;
  /** With a coding map the control units themselves are asked. */
  map: CodingMap | null;
  /** As they were left; null before anybody talked to them. */
  units: StandInUnits | null;
  seed: number;
}

/** Reads the fault memory, unit by unit. */
export function scanStandIn({ plan, state, fault, map, units, seed }: Scanned): string {
  const said = new Map((plan.fitted.monitors ?? []).map((m) => [m.code, m.say]));
  for (const old of OLD_CODES) said.set(codeOf(old.bytes), old.text);
  if (map) {
    const car = standInCar(plan, state, fault, map);
    return print(
      storedCodes(car, units ?? newUnits(car, seed)).map(({ unit, codes }) => ({ name: unit.name, codes })),
      said,
    );
  }
  const model = asItStands(plan, state, fault);
  const predicted = predictedCodes(model, { ...plan.settings, ...state.switches });
  const names = new Map(model.system.parts.map((p) => [p.id, p.name]));
  const parts = [...new Set([...OLD_CODES.map((o) => o.part), ...predicted.map((p) => p.part)])];
  return parts
    .flatMap((part) => {
      const name = names.get(part);
      const codes = predicted.filter((p) => p.part === part).map((p) => p.code);
      const all = [...codes, ...oldCodes(seed, part).map((o) => codeOf(o.bytes))];
      return name && all.length > 0 ? [`${name}:`, ...all.map((c) => `${c} ${said.get(c) ?? ""}`.trim())] : [];
    })
    .join("\n");
}

function print(units: { name: string; codes: number[][] }[], said: ReadonlyMap<string, string>): string {
  return units
    .flatMap(({ name, codes }) => {
      const read = codesFromAnswer(Uint8Array.from([0x59, 0x02, 0xff, ...codes.flat()]));
      return read.length > 0 ? [`${name}:`, ...read.map((r) => `${r.code} ${said.get(r.code) ?? ""}`.trim())] : [];
    })
    .join("\n");
}

function codeOf(bytes: readonly [number, number, number]): string {
  return codesFromAnswer(Uint8Array.from([0x59, 0x02, 0xff, ...bytes, CONFIRMED]))[0]?.code ?? "";
}
