import type { Spot } from "~/core/camera/pose";
import { OBJECT_HEIGHT_M, OBJECT_IDS, OBJECT_WIDTH_M, OBJECTS, type ObjectId } from "~/core/camera/rear-view";

interface DrawnLine {
  id: string;
  line: Spot[];
}

/** The cylinders of the rear view rule as lines in space. */
export function cylinders(): DrawnLine[] {
  return OBJECT_IDS.flatMap(cylinder);
}

function cylinder(id: ObjectId): DrawnLine[] {
  const { x, y } = OBJECTS[id];
  const round = (z: number) =>
    Array.from({ length: 25 }, (_, i) => ({
      x: x + (OBJECT_WIDTH_M / 2) * Math.cos((i / 12) * Math.PI),
      y: y + (OBJECT_WIDTH_M / 2) * Math.sin((i / 12) * Math.PI),
      z,
    }));
  const side = (dx: number) => Array.from({ length: 9 }, (_, i) => ({ x: x + dx, y, z: (i / 8) * OBJECT_HEIGHT_M }));
  return [
    { id: `${id} foot`, line: round(0) },
    { id: `${id} top`, line: round(OBJECT_HEIGHT_M) },
    { id: `${id} left`, line: side(-OBJECT_WIDTH_M / 2) },
    { id: `${id} right`, line: side(OBJECT_WIDTH_M / 2) },
  ];
}
