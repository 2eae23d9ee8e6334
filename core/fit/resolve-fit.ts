import { type SwitchSolution, solveSwitches } from "../configure/switches";
import { type Choices, composeFitted, composeStock } from "../model/compose";
import { Model } from "../model/outcome";
import type { CarProfile, KitProfile, VariantProfile } from "../model/profile";
import type { FunctionSpec, Settings, Situation, System } from "../model/types";

/** The documents a job is planned with; a job pins their versions. */
export interface Documents {
  car: CarProfile;
  variant: VariantProfile;
  kit: KitProfile;
}

/** Both systems and the settings with which the fitted one is to work. */
export interface ResolvedFit {
  stock: System;
  fitted: System;
  switches: SwitchSolution | null;
  settings: Settings;
  /** The fitted system ready to be asked. */
  model: Model;
}

/** What can be computed once for a car and used for many kits. */
export interface StockModel {
  system: System;
  model: Model;
  /** Factory functions that work, by the usual situation. */
  working: Map<string, FunctionSpec[]>;
}

export function stockModel(car: CarProfile, variant: VariantProfile): StockModel {
  const system = composeStock(car, variant);
  return { system, model: new Model(system), working: new Map() };
}

/**
 * Composes both systems and solves the switch bank for the wishes, everything that worked before and everything the
 * law asks for.
 *
 * @param wishes function identifiers the customer wants; null for all that the kit offers
 * @throws {ComposeError} {ModelError} when the documents do not go together
 */
export function resolveFit(documents: Documents, choices: Choices, wishes: readonly string[] | null): ResolvedFit {
  const { car, variant, kit } = documents;
  const stock = stockModel(car, variant);
  return resolveFitted(kit, composeFitted(car, variant, kit, choices, stock.system), wishes, stock, "all");
}

/**
 * The same for a system that is composed already.
 *
 * @param detail `first` stops at the first good position and leaves out what each switch breaks, for rankings
 */
export function resolveFitted(
  kit: KitProfile,
  fitted: System,
  wishes: readonly string[] | null,
  stock: StockModel,
  detail: "all" | "first",
): ResolvedFit {
  const model = new Model(fitted);
  const switches = kit.switchBank
    ? solveSwitches(fitted, kit.switchBank, wantedFunctions(stock, fitted, wishes), detail, model)
    : null;
  return { stock: stock.system, fitted, switches, settings: { ...fitted.settings, ...switches?.settings }, model };
}

function wantedFunctions(stock: StockModel, fitted: System, wishes: readonly string[] | null): string[] {
  const known = new Set(stock.system.functions.map((f) => f.id));
  const wished = wishes ?? fitted.functions.filter((f) => !known.has(f.id)).map((f) => f.id);
  const law = fitted.functions.filter((f) => f.who === "law").map((f) => f.id);
  return [...new Set([...wished, ...law, ...factoryFunctions(stock, fitted).map((f) => f.id)])];
}

/** Factory functions; one that the kit gives up by a changed usual situation (a deleted pairing) is no goal for the switches. */
function factoryFunctions(stock: StockModel, fitted: System): FunctionSpec[] {
  const before = stock.system.defaultSituation;
  if (Object.keys(before).every((k) => before[k as keyof Situation] === fitted.defaultSituation[k as keyof Situation]))
    return stock.system.functions;
  const key = JSON.stringify(fitted.defaultSituation);
  let working = stock.working.get(key);
  if (!working) {
    const model = new Model({ ...stock.system, defaultSituation: fitted.defaultSituation });
    working = stock.system.functions.filter((fn) => fn.situations.every((s) => model.see(fn, s.id).kind === "ok"));
    stock.working.set(key, working);
  }
  return working;
}
