/** Drawings of a car as such cars usually look; the shop moves the corners to those of the car. */
import {
  box,
  type DashDrawing,
  type DashShape,
  type Outline,
  type PlanDrawing,
  type Point,
} from "../../../core/drawing/drawing";
import type { CarProfile } from "../../../core/model/profile";
import type { CarLeaflet } from "./leaflet";

const DASH = { width: 1400, height: 640 };

/** What the drawings of a car depend on. */
export type Looks = Pick<CarLeaflet, "driveSide" | "gearbox"> & {
  /** Panels of the strip plan: only these are drawn as something that comes off. */
  panels: ReadonlySet<string>;
  tweeters: boolean;
};

export function drawings(looks: Looks): NonNullable<CarProfile["drawings"]> {
  return { dash: dash(looks), plan: plan(looks) };
}

/** The dash from the seats, drawn for a wheel on the left and turned over for one on the right. */
function dash({ driveSide, gearbox, panels }: Looks): DashDrawing {
  const shapes: DashShape[] = [
    { id: "dash", what: "body", outline: DASH_BODY },
    comesOff("headlining", "headlining edge", [
      [320, 0],
      [1080, 0],
      [1060, 46],
      [340, 46],
    ]),
    comesOff("pillar", "A-pillar trim", [
      [0, 60],
      [58, 44],
      [130, 196],
      [70, 214],
    ]),
    { id: "airbag", what: "airbag", name: "passenger airbag", outline: box(910, 196, 330, 64) },
    { id: "cluster", what: "cluster", name: "cluster", outline: box(196, 158, 250, 84) },
    comesOff("vents", "vent panel", [
      [540, 232],
      [850, 232],
      [836, 304],
      [554, 304],
    ]),
    { id: "vent-left", what: "vent", outline: box(566, 244, 90, 46) },
    { id: "vent-right", what: "vent", outline: box(734, 244, 90, 46) },
    { id: "hazard", what: "key", name: "hazard switch", part: "ventPanel", outline: box(676, 250, 38, 34) },
    comesOff("climate", "climate panel", box(586, 440, 218, 50)),
    comesOff("sockets", "socket panel", box(614, 500, 162, 36)),
    comesOff("console", "console panel", [
      [596, 546],
      [794, 546],
      [830, 640],
      [560, 640],
    ]),
    {
      id: "lever",
      what: "knob",
      name: "selector",
      outline: gearbox === "automatic" ? box(676, 562, 38, 56) : ring(695, 590, 22),
    },
    comesOff("glovebox", "glovebox", [
      [900, 330],
      [1270, 330],
      [1250, 480],
      [914, 480],
    ]),
    comesOff("knee", "knee panel", [
      [170, 440],
      [470, 440],
      [460, 560],
      [190, 560],
    ]),
    comesOff("fuses", "fuse panel cover", box(74, 330, 84, 96)),
    comesOff("shroud", "column shroud", [
      [262, 344],
      [380, 344],
      [368, 432],
      [274, 432],
    ]),
    { id: "wheel", what: "wheel", name: "steering wheel", part: "wheelKeys", outline: ring(321, 330, 148) },
  ];
  const drawn = shapes.filter((s) => s.panel === undefined || panels.has(s.panel));
  return { ...DASH, shapes: driveSide === "left" ? drawn : drawn.map(turnedOver) };
}

const DASH_BODY: Outline = [
  [70, 214],
  [150, 150],
  [500, 120],
  [900, 120],
  [1250, 150],
  [1330, 214],
  [1330, 430],
  [1280, 500],
  [860, 500],
  [860, 640],
  [530, 640],
  [530, 500],
  [490, 580],
  [160, 580],
  [70, 440],
];

function comesOff(id: string, panel: string, outline: Outline): DashShape {
  return { id, what: "panel", name: panel, panel, outline };
}

function turnedOver(shape: DashShape): DashShape {
  return { ...shape, outline: shape.outline.map(([x, y]): Point => [DASH.width - x, y]) };
}

function ring(x: number, y: number, radius: number): Outline {
  const corners = 24;
  return Array.from({ length: corners }, (_, i): Point => {
    const turn = (2 * Math.PI * i) / corners;
    return [Math.round(x + radius * Math.cos(turn)), Math.round(y + radius * Math.sin(turn))];
  });
}

const PLAN = { width: 4400, height: 1800 };

/** The car from above, its front to the left, drawn for a wheel on the left. */
function plan({ driveSide, tweeters }: Looks): PlanDrawing {
  const drawn: PlanDrawing = {
    ...PLAN,
    body: [
      [60, 420],
      [240, 150],
      [900, 80],
      [3500, 80],
      [4200, 160],
      [4360, 420],
      [4360, 1380],
      [4200, 1640],
      [3500, 1720],
      [900, 1720],
      [240, 1650],
      [60, 1380],
    ],
    zones: [
      { what: "hot", name: "engine", outline: box(340, 480, 720, 840) },
      { what: "airbag", name: "knee airbag", outline: box(1380, 1180, 110, 340) },
      { what: "airbag", name: "passenger airbag", outline: box(1380, 260, 120, 420) },
      { what: "airbag", name: "curtain airbag, driver", outline: box(1500, 1590, 2100, 60) },
      { what: "airbag", name: "curtain airbag, passenger", outline: box(1500, 150, 2100, 60) },
    ],
    places: [
      { name: "front grille", at: [120, 900] },
      { name: "engine bay", at: [1120, 620] },
      { name: "glovebox space", at: [1560, 480] },
      { name: "radio shaft", at: [1520, 900] },
      { name: "vent space", at: [1400, 900] },
      { name: "console space", at: [1860, 900] },
      { name: "column shroud", at: [1700, 1240] },
      { name: "knee space", at: [1560, 1420] },
      { name: "fuse panel", at: [1440, 1600] },
      { name: "A-pillar", at: [1300, 1660] },
      { name: "headlining edge", at: [1760, 1080] },
      { name: "windscreen", at: [1250, 900] },
      { name: "diagnostic socket", at: [1680, 1540] },
      { name: "sill", at: [2500, 1680] },
      { name: "tailgate", at: [4240, 900] },
    ],
  };
  const car = driveSide === "left" ? drawn : mirrored(drawn);
  return { ...car, speakers: tweeters ? [...SPEAKERS, ...TWEETERS] : SPEAKERS };
}

/** In the doors, left and right whatever side the wheel is on; tweeters at the foot of the pillars. */
const SPEAKERS: NonNullable<PlanDrawing["speakers"]> = [
  { contact: "speakers.cones.LF", at: [1800, 1600] },
  { contact: "speakers.cones.RF", at: [1800, 200] },
  { contact: "speakers.cones.LR", at: [2900, 1600] },
  { contact: "speakers.cones.RR", at: [2900, 200] },
];
const TWEETERS: NonNullable<PlanDrawing["speakers"]> = [
  { contact: "tweeters.cones.TLF", at: [1340, 1560] },
  { contact: "tweeters.cones.TRF", at: [1340, 240] },
];

function mirrored(drawn: PlanDrawing): PlanDrawing {
  const over = ([x, y]: Point): Point => [x, PLAN.height - y];
  return {
    ...drawn,
    body: drawn.body.map(over),
    zones: drawn.zones.map((z) => ({ ...z, outline: z.outline.map(over) })),
    places: drawn.places.map((p) => ({ ...p, at: over(p.at) })),
  };
}
