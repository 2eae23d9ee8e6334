/** The dash as it stands on a job: what is off, what comes off next, where something sits. */
import type { CarProfile, VariantProfile } from "../model/profile";
import { type DashDrawing, type DashShape, type DrawnShape, drawnShape } from "./drawing";

/** The dash of a car with its radio: shapes of the radio stand over those of the car with the same identifier. */
export function dashOf(
  car: Pick<CarProfile, "drawings">,
  variant: Pick<VariantProfile, "dash"> | null,
): DashDrawing | null {
  const dash = car.drawings?.dash;
  if (!dash) return null;
  const own = variant?.dash ?? [];
  const replaced = new Set(own.map((s) => s.id));
  return { ...dash, shapes: [...dash.shapes.filter((s) => !replaced.has(s.id)), ...own] };
}

/** The dash as a page draws it. */
export interface DrawnDash {
  width: number;
  height: number;
  shapes: DrawnShape[];
}

export function drawnDash(...documents: Parameters<typeof dashOf>): DrawnDash | null {
  const dash = dashOf(...documents);
  return dash && { ...dash, shapes: dash.shapes.map(drawnShape) };
}

export interface DashMark<S> {
  shape: S;
  state: "off" | "now" | "at" | "plain";
}

/**
 * Every shape of a dash with its state.
 *
 * @param off panels that are off
 * @param now panel in hand
 * @param at parts and panels that are pointed at
 */
export function markDash<S extends Pick<DashShape, "panel" | "part">>(
  dash: { shapes: readonly S[] },
  { off = [], now = null, at = [] }: { off?: readonly string[]; now?: string | null; at?: readonly string[] },
): DashMark<S>[] {
  return dash.shapes.map((shape) => {
    const { panel, part } = shape;
    if (panel !== undefined && panel === now) return { shape, state: "now" };
    if ((part !== undefined && at.includes(part)) || (panel !== undefined && at.includes(panel)))
      return { shape, state: "at" };
    if (panel !== undefined && off.includes(panel)) return { shape, state: "off" };
    return { shape, state: "plain" };
  });
}
