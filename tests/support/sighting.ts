/** A photo of a screen that shows marks on the floor, as a hand would tap it. */
import { type Camera, onGlass } from "../../core/camera/pose";
import type { Sighting } from "../../core/camera/sighting";
import type { FloorMark } from "../../core/camera/tape-plan";
import { type Corners, fromUnitSquare, mapPoint, type Point } from "../../core/geometry/unit-square";

/** Normal deviates of mean 0 and variance 1 (Box and Muller). */
export function normals(random: () => number): () => number {
  return () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}

/** A screen of 5 by 3 on a photo of about so many pixels across, held a little askew. */
export function screenOn(px: number): Corners {
  return [
    { x: 300, y: 250 },
    { x: 300 + px, y: 250 - 0.016 * px },
    { x: 300 + 1.01 * px, y: 250 + 0.6 * px },
    { x: 300 - 0.015 * px, y: 260 + 0.58 * px },
  ];
}

/** @param hand moves a tap; without it every tap is exact */
export function sighted(
  camera: Camera,
  marks: readonly FloorMark[],
  screen: Corners,
  hand: () => number = () => 0,
): Sighting {
  const tapped = ({ x, y }: Point): Point => ({ x: x + hand(), y: y + hand() });
  const [a, b, c, d] = screen;
  return {
    corners: [tapped(a), tapped(b), tapped(c), tapped(d)],
    marks: marks.flatMap((m) => {
      const place = onGlass(camera, { ...m.at, z: 0 });
      return place ? [{ ...m, tap: tapped(mapPoint(fromUnitSquare(screen), { x: place.u, y: place.v })) }] : [];
    }),
  };
}
