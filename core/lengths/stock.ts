import type { Material } from "./material";

/** How much of a material there is: in the box of the kit, on the shop's shelf. */
export interface Supply {
  what: string;
  needed: number;
  unit: Material["unit"];
  from: string;
  inBox: number;
  /** Null where the shelf is not known. */
  onShelf: number | null;
  verdict: "box" | "shelf" | "short" | "unknown";
  /** What is missing when both are used up, as far as they are known. */
  missing: number;
}

/**
 * What the box and the shelf give of each material. A line of the box that names it counts with the number it says
 * ("Ties, 10 pieces", "Foam tape, 2 m"), or as enough when it says none.
 *
 * @param shelf by material; null where nobody can say what lies on it
 */
export function supplies(
  material: readonly Material[],
  box: readonly string[],
  shelf: Readonly<Record<string, number>> | null,
): Supply[] {
  return material.map((m) => {
    const needed = m.unit === "pieces" ? Math.ceil(m.amount) : m.amount;
    const inBox = box.filter((line) => namesMaterial(line, m.what)).reduce((n, line) => n + amountIn(line, needed), 0);
    const onShelf = shelf && (shelf[m.what] ?? 0);
    const missing = Math.max(0, needed - inBox - (onShelf ?? 0));
    const without = onShelf === null ? "unknown" : missing > 1e-9 ? "short" : "shelf";
    const verdict = inBox >= needed ? "box" : without;
    return { what: m.what, needed, unit: m.unit, from: m.from, inBox, onShelf, verdict, missing };
  });
}

/** A line names a material when it begins with its name; "Double-sided tape for the module" does, "Foil tape" does not. */
export function namesMaterial(line: string, what: string): boolean {
  return line.toLowerCase().startsWith(what.toLowerCase());
}

function amountIn(line: string, otherwise: number): number {
  const number = /(\d+(?:[.,]\d+)?)\s*(?:pieces|m\b)/.exec(line)?.[1];
  return number === undefined ? otherwise : Number(number.replace(",", "."));
}
