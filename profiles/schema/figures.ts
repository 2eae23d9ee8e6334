/** Facts that are numbers, each within its limits. */
import { z } from "zod";
import { FIGURES, type FigureName, type Figures } from "../../core/model/figures";

const shape = Object.fromEntries(
  Object.entries(FIGURES).map(([name, { label, unit, min, max }]) => [
    name,
    z
      .number()
      .min(min, `${label.toLowerCase()} is at least ${min} ${unit}`.trim())
      .max(max, `${label.toLowerCase()} is at most ${max} ${unit}`.trim())
      .optional(),
  ]),
) as Record<FigureName, z.ZodOptional<z.ZodNumber>>;

export const figuresSchema = z.strictObject(shape) satisfies z.ZodType<Figures>;
