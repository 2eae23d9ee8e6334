import type { PointerEvent } from "react";
import type { Point } from "~/core/geometry/unit-square";

/** Where a drawing was pressed, in its own units. */
export function pointOf(e: PointerEvent<SVGSVGElement>): Point {
  const matrix = e.currentTarget.getScreenCTM()?.inverse();
  const { x, y } = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix);
  return { x, y };
}
