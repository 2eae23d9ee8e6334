import { type SwitchSolution, solveSwitches, type Way } from "../configure/switches";
import { type Choices, composeFitted, composeStock, conditionTest, resolveChoices } from "../model/compose";
import { Model } from "../model/outcome";
import type { CarProfile, KitProfile, VariantProfile } from "../model/profile";
import type { FunctionSpec, Settings, Situation, System } from "../model/types";
import { type FirmwareFit, firmwareFit, withFirmware } from "./firmware";

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
  working: Map<Situation, FunctionSpec[]>;
}

export function stockModel(car: CarProfile, variant: VariantProfile): StockModel {
  const system = composeStock(car, variant);
  return { system, model: new Model(system), working: new Map() };
}

/**
 * Composes both systems and solves the switch bank for everything that kit and options give, everything that worked
 * before and everything the law asks for. What the customer wishes for decides which kit is taken, not how it is set.
 *
 * @param givenUp functions that are left out on purpose, because they cannot be had together with others
 * @param present version of the firmware in the radio; empty while it is not known
 * @param came version with which the radio came, where it was updated here
 * @throws {ComposeError} {ModelError} when the documents do not go together
 */
export function resolveFit(
  documents: Documents,
  choices: Choices,
  givenUp: readonly string[] = [],
  present = "",
  came = present,
): ResolvedFit {
  const { car, variant, kit } = documents;
  const stock = stockModel(car, variant);
  const composed = composeFitted(car, variant, kit, choices, stock.system);
  const fitted = withFirmware(composed, firmwareOfKit(documents, stock.system, choices, present, came));
  return resolveFitted(kit, fitted, givenUp, stock, "all");
}

/** What the firmware of the radio means for a kit with these options; nothing where the kit replaces the radio. */
export function firmwareOfKit(
  { car, variant, kit }: Documents,
  stock: System,
  choices: Choices,
  present: string,
  came = present,
): FirmwareFit {
  const applies = conditionTest(car, stock, resolveChoices(kit, choices));
  const own = new Set(kit.parts.map((p) => p.id));
  const floors = kit.firmwareFloors.filter(applies).map((f) => f.atLeast);
  const effects = variant.firmware?.effects?.filter((e) => !own.has(e.setting.split(".")[0] ?? ""));
  const firmware = variant.firmware && { ...variant.firmware, ...(effects ? { effects } : {}) };
  return firmwareFit({ ...variant, ...(firmware ? { firmware } : {}) }, floors, present, came);
}

/**
 * The same for a system that is composed already.
 *
 * @param detail `first` stops at the first good position and leaves out what each switch breaks, for rankings
 */
export function resolveFitted(
  kit: KitProfile,
  fitted: System,
  givenUp: readonly string[],
  stock: StockModel,
  detail: "all" | "first",
): ResolvedFit {
  const model = new Model(fitted);
  const goals = wantedFunctions(stock, fitted).filter((id) => !givenUp.includes(id));
  const switches = kit.switchBank ? solveSwitches(fitted, kit.switchBank, goals, detail, model) : null;
  return { stock: stock.system, fitted, switches, settings: { ...fitted.settings, ...switches?.settings }, model };
}

/** The settings with the way out of a conflict that gives up the fewest wishes; the same where there is none. */
export function settingsForWishes({ settings, switches }: ResolvedFit, wishes: readonly string[]): Settings {
  const lost = (way: Way) => way.givesUp.filter((f) => wishes.includes(f.id)).length;
  const [best] = [...(switches?.conflict ?? [])].sort((a, b) => lost(a) - lost(b));
  return { ...settings, ...best?.settings };
}

function wantedFunctions(stock: StockModel, fitted: System): string[] {
  const known = new Set(stock.system.functions.map((f) => f.id));
  const brought = fitted.functions.filter((f) => f.who === "law" || !known.has(f.id)).map((f) => f.id);
  return [...new Set([...brought, ...factoryFunctions(stock, fitted).map((f) => f.id)])];
}

/** Factory functions; one that the kit gives up by a changed usual situation (a deleted pairing) is no goal for the switches. */
function factoryFunctions(stock: StockModel, fitted: System): FunctionSpec[] {
  if (fitted.defaultSituation === stock.system.defaultSituation) return stock.system.functions;
  let working = stock.working.get(fitted.defaultSituation);
  if (!working) {
    const model = new Model({ ...stock.system, defaultSituation: fitted.defaultSituation });
    working = stock.system.functions.filter((fn) => fn.situations.every((s) => model.see(fn, s.id).kind === "ok"));
    stock.working.set(fitted.defaultSituation, working);
  }
  return working;
}
