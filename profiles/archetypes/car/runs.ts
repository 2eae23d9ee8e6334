import type { CarPlace, RunSegment } from "../../../core/model/profile";

/** Ways of leads in such cars, measured by nobody: the shop replaces them by its own tape measure. */
export function runs(): RunSegment[] {
  return [
    run("radio shaft", "glovebox space", 0.55, { zone: "sharp" }),
    run("radio shaft", "vent space", 0.25),
    run("radio shaft", "column shroud", 0.5),
    run("radio shaft", "console space", 0.4),
    run("radio shaft", "knee space", 0.7),
    run("knee space", "column shroud", 0.4),
    run("knee space", "fuse panel", 0.3),
    run("knee space", "A-pillar", 0.6),
    run("A-pillar", "headlining edge", 0.85, { zone: "airbag", say: "across the front of the airbag" }),
    run("A-pillar", "headlining edge", 1.05, { say: "behind the airbag" }),
    run("headlining edge", "windscreen", 0.3),
    run("knee space", "sill", 0.5),
    run("sill", "tailgate", 3.4, { zone: "moving", grommet: true, say: "sill, C-pillar, hinge" }),
    run("glovebox space", "engine bay", 0.45, { grommet: true, zone: "wet" }),
    run("engine bay", "front grille", 1.3, { zone: "hot" }),
  ].map((r, i) => ({ id: `r${i + 1}`, ...r }));
}

/** What the places of such cars are like. */
export function places(): CarPlace[] {
  return [
    place("glovebox space", "plastic", { airy: true }),
    place("radio shaft", "metal", {}),
    place("vent space", "plastic", { airy: true }),
    place("column shroud", "plastic", { byHand: true }),
    place("console space", "plastic", { byHand: true }),
    place("knee space", "metal", { airy: true, byHand: true }),
    place("A-pillar", "metal", {}),
    place("headlining edge", "metal", { byHand: true }),
    place("sill", "metal", {}),
    place("engine bay", "metal", { airy: true, hot: true }),
  ];
}

const place = (name: string, surface: CarPlace["surface"], more: Partial<CarPlace>): CarPlace => ({
  name,
  surface,
  airy: false,
  byHand: false,
  ...more,
});

const run = (from: string, to: string, lengthM: number, more: Partial<RunSegment> = {}): Omit<RunSegment, "id"> => ({
  from,
  to,
  lengthM,
  ...more,
});
