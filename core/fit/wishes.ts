import type { KitProfile } from "../model/profile";
import type { FunctionSpec } from "../model/types";
import type { Wish } from "./rank";

/** Functions a customer may wish for on this car: what any kit of the library brings beyond the stock radio. */
export function wishesOf(kits: readonly KitProfile[], stock: readonly FunctionSpec[]): Wish[] {
  const known = new Set(stock.map((f) => f.id));
  const found = new Map<string, string>();
  for (const kit of kits)
    for (const fn of kit.functions) if (fn.who === "customer" && !known.has(fn.id)) found.set(fn.id, fn.name);
  return [...found].map(([id, name]) => ({ id, name })).sort((a, b) => (a.name < b.name ? -1 : 1));
}

/** Wishes of a customer with their names; one that no kit of the library gives keeps its identifier. */
export function namedWishes(kits: readonly KitProfile[], ids: readonly string[]): Wish[] {
  const names = new Map(wishesOf(kits, []).map((w) => [w.id, w.name]));
  return ids.map((id) => ({ id, name: names.get(id) ?? id }));
}
