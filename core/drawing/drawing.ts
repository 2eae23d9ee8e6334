/** Drawings of documents as plain data: polygons and places in millimetres, x to the right, y down. */

import type { ContactRef } from "../model/types";

export type Point = [number, number];
export type Outline = Point[];

/** Something seen on the dash from the seats. */
export interface DashShape {
  id: string;
  what: "body" | "panel" | "screen" | "radio" | "vent" | "key" | "knob" | "slot" | "cluster" | "wheel" | "airbag";
  /** As people call it; shapes without a name are only looks. */
  name?: string;
  /** Panel of the strip plan that it is. */
  panel?: string;
  /** Part of the system that it is. */
  part?: string;
  outline: Outline;
}

/** The dash from the seats. */
export interface DashDrawing {
  width: number;
  height: number;
  shapes: DashShape[];
}

/** A shape as a page draws it: its corners in one text, as polygons have them. Pages carry it for every car. */
export type DrawnShape = Omit<DashShape, "outline"> & { points: string };

const drawn = new WeakMap<DashShape, DrawnShape>();

/** The same object each time: what draws a shape twice says it once. */
export function drawnShape(shape: DashShape): DrawnShape {
  const known = drawn.get(shape);
  if (known) return known;
  const { outline, ...rest } = shape;
  const made = { ...rest, points: points(outline) };
  drawn.set(shape, made);
  return made;
}

/** The car from above, its front to the left. */
export interface PlanDrawing {
  width: number;
  height: number;
  body: Outline;
  /** Zones in which a lead must mind something. */
  zones: { what: "airbag" | "hot" | "wet"; name: string; outline: Outline }[];
  /** Where the places of ways and strip plan are, by their names. */
  places: { name: string; at: Point }[];
  /** Where sound comes from, by the contact at which it is heard. */
  speakers?: { contact: ContactRef; at: Point }[];
}

/** The side of a part on which its sockets are. */
export interface BackDrawing {
  width: number;
  height: number;
  /** Middle of each socket, by the port. */
  sockets: { port: string; at: Point }[];
}

/**
 * The first two sides of an outline that cross each other, by the numbers of their first corners; null when none do.
 *
 * Plain test of every pair of sides by the signs of the areas they span (O'Rourke, Computational Geometry in C, 1.5).
 */
export function crossing(outline: Outline): [number, number] | null {
  const n = outline.length;
  const corner = (i: number) => outline[i % n] as Point;
  for (let i = 0; i < n; i++)
    for (let j = i + 2; j < n; j++) {
      if (i === 0 && j === n - 1) continue;
      if (cross(corner(i), corner(i + 1), corner(j), corner(j + 1))) return [i, j];
    }
  return null;
}

function cross(a: Point, b: Point, c: Point, d: Point): boolean {
  return side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;
}

/** Which side of the way from a to b a place is on. */
function side([ax, ay]: Point, [bx, by]: Point, [px, py]: Point): number {
  return Math.sign((bx - ax) * (py - ay) - (by - ay) * (px - ax));
}

/** A rectangle as an outline. */
export function box(x: number, y: number, width: number, height: number): Outline {
  return [
    [x, y],
    [x + width, y],
    [x + width, y + height],
    [x, y + height],
  ];
}

/** Corners as polygons have them: `x,y x,y`. */
export function points(outline: Outline): string {
  return outline.map((p) => p.join(",")).join(" ");
}

/** The corners that `points` wrote. */
export function corners(written: string): Outline {
  return written.split(" ").map((p) => p.split(",").map(Number) as Point);
}

/** The smallest rectangle around an outline. */
export function bounds(outline: Outline): { x: number; y: number; width: number; height: number } {
  const xs = outline.map((p) => p[0]);
  const ys = outline.map((p) => p[1]);
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
}
