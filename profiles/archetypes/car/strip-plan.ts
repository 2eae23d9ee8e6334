import type { Minutes, PanelDrawing, StripPlan, StripStep } from "../../../core/model/profile";
import type { CarLeaflet } from "./leaflet";

/** The way into a car as such cars are usually built; the shop replaces it by what it finds on the car. */
export function stripPlan(l: CarLeaflet): StripPlan {
  return {
    steps: [
      consolePanel(l),
      ...vents(),
      ...radio(),
      glovebox(),
      ...driverSide(),
      ...(l.climateZones > 0 ? [climatePanel()] : []),
      ...rear(),
      ...(l.sound === "ring" ? [amplifier()] : []),
    ],
    free: {
      parts: ["battery", "phone"],
      ports: ["loom.socket12", "usbPanel.front", "usbPanel.stick", "usbStick.plug"],
      places: ["front grille", "windscreen", "diagnostic socket", "engine bay"],
    },
    batteryWaitMin: 10,
    batterySide: "engineBay",
  };
}

function consolePanel(l: CarLeaflet): StripStep {
  const automatic = l.gearbox === "automatic";
  return {
    id: "console",
    title: automatic ? "Console panel out" : "Gaiter and console panel out",
    detail: automatic ? "Lift at the rear edge, then pull back." : "Unclip the gaiter, lift at the rear edge.",
    back: { title: "Console panel in", detail: "Hooks in front, then press down at the rear edge." },
    after: [],
    minutes: minutes(2, 3, 6),
    tool: "plastic wedge",
    level: "lower",
    cover: ["console"],
    panel: "console panel",
    clips: { count: 4, start: "rear edge", stay: "panel" },
    hooks: "two hooks in front",
    reaches: {
      places: ["console space"],
      ...(l.handsFreeModule ? { parts: ["handsFreeModule"], ports: ["loom.handsFree", "loom.micTap"] } : {}),
    },
    ...(automatic ? { requires: { selector: ["N", "D"] } } : {}),
    drawing: TRAY_SHAPE,
  };
}

function vents(): StripStep[] {
  return [
    {
      id: "vents",
      title: "Vent panel out",
      detail: "Wedge at the top edge, work round to both sides.",
      back: { title: "Vent panel in", detail: "Hazard plug first; press in from the bottom." },
      after: [],
      minutes: minutes(3, 4, 9),
      tool: "plastic wedge",
      level: "upper",
      cover: ["dash edge"],
      panel: "vent panel",
      clips: { count: 6, start: "top edge", stay: "dash" },
      opens: [{ a: "loom.vents", b: "ventPanel.main", lock: "tongue" }],
      reaches: { places: ["vent space"] },
      airbagZone: true,
      drawing: BAR_SHAPE,
    },
  ];
}

const SCREEN_PLUGS: NonNullable<StripStep["opens"]> = [
  { a: "loom.screen", b: "screen.supply", lock: "tongue" },
  { a: "displayLead.screenEnd", b: "screen.video", lock: "tongue" },
];
const SCREEN_ENDS = ["loom.screen", "displayLead.screenEnd"];

function radio(): StripStep[] {
  return [
    {
      id: "radio-screws",
      title: "Radio screws out",
      detail: "Four screws at the corners.",
      back: { title: "Radio screws in", detail: "Four at the corners; start all by hand before one is tight." },
      after: ["vents", "console"],
      minutes: minutes(2, 4, 8),
      tool: "T20",
      level: "upper",
      fasteners: [
        { kind: "T20 screw", count: 2, lengthMm: 16, tray: "A", place: "upper corners", hiddenBehind: "vent panel" },
        { kind: "T20 screw", count: 2, lengthMm: 22, tray: "B", place: "lower corners", hiddenBehind: "console panel" },
      ],
      drawing: SCREWED_SHAPE,
    },
    {
      id: "radio-out",
      title: "Radio out, plugs off",
      detail: "Pull straight; lever of the main plug up, tongue of the small ones down.",
      back: { title: "Radio in", detail: "Leads behind it without a sharp bend; no lead under the bracket." },
      after: ["radio-screws"],
      minutes: minutes(3, 4, 8),
      level: "upper",
      panel: "radio",
      // A plug that the radio at hand does not have is left out when a job is planned.
      opens: [
        { a: "loom.radio", b: "radio.main", lock: "lever" },
        { a: "displayLead.radioEnd", b: "radio.video", lock: "tongue" },
        { a: "loom.cameraRadio", b: "radio.camera", lock: "tongue" },
        { a: "antenna.coax", b: "radio.antenna", lock: "none", how: "Pull at the collar, not at the lead." },
        { a: "satelliteAntenna.coax", b: "radio.satellite", lock: "none", how: "Pull at the collar." },
        { a: "usbCable.radio", b: "radio.usb", lock: "tongue" },
        { a: "loom.emergency", b: "radio.emergency", lock: "tongue" },
      ],
      reaches: {
        parts: ["radio", "displayLead", "antenna", "satelliteAntenna", "keyRibbon", "radioFront"],
        places: ["radio shaft"],
      },
    },
    {
      id: "front-plugs",
      title: "Plugs of the screen off, behind the front",
      detail: "Screen and radio are one unit: its plugs are seen from behind once it is out.",
      back: { title: "Plugs of the screen on", detail: "Before the unit goes into its shaft." },
      after: ["radio-out"],
      when: { fact: "screen.place", is: ["behind one front"] },
      minutes: minutes(0.5, 1, 2),
      level: "upper",
      opens: SCREEN_PLUGS,
      reaches: { parts: ["screen"], ports: SCREEN_ENDS },
    },
    {
      id: "screen-out",
      title: "Screen out",
      detail: "Two screws under the lip, then towards you.",
      back: { title: "Screen in", detail: "Ribbon and leads free; screws by hand first." },
      after: ["vents"],
      when: { not: { fact: "screen.place", is: ["behind one front"] } },
      minutes: minutes(3, 5, 10),
      tool: "T20",
      level: "upper",
      panel: "screen",
      fasteners: [
        { kind: "T20 screw", count: 2, lengthMm: 25, tray: "K", place: "under the lip", hiddenBehind: "vent panel" },
      ],
      opens: SCREEN_PLUGS,
      reaches: { parts: ["screen"], ports: SCREEN_ENDS },
    },
    {
      id: "usb-panel",
      title: "Socket panel out",
      detail: "Unclip from behind, two small plugs side by side: note the order by colour.",
      back: { title: "Socket panel in", detail: "Plugs in the order noted." },
      after: ["console"],
      minutes: minutes(2, 3, 6),
      tool: "plastic wedge",
      level: "lower",
      panel: "socket panel",
      clips: { count: 2, start: "rear edge", stay: "panel" },
      opens: [{ a: "usbCable.panel", b: "usbPanel.back", lock: "tongue" }],
      reaches: { parts: ["usbPanel", "usbCable"] },
    },
  ];
}

function glovebox(): StripStep {
  return {
    id: "glovebox",
    title: "Glovebox out",
    detail: "Three screws under the edge, damper out of its eye.",
    back: { title: "Glovebox in", detail: "Damper into its eye; nothing may lie over the airbag." },
    after: [],
    minutes: minutes(4, 6, 12),
    tool: "8 mm socket",
    side: "passenger",
    level: "lower",
    panel: "glovebox",
    fasteners: [{ kind: "8 mm hexagon screw", count: 3, lengthMm: 20, tray: "C", place: "under the edge" }],
    hooks: "the damper",
    reaches: { places: ["glovebox space"] },
    airbagZone: true,
  };
}

function driverSide(): StripStep[] {
  return [
    {
      id: "knee-panel",
      title: "Knee panel out",
      detail: "Two screws below, then pull towards you.",
      back: { title: "Knee panel in", detail: "Clips above, then the screws." },
      after: [],
      minutes: minutes(3, 5, 10),
      tool: "7 mm socket",
      side: "driver",
      level: "lower",
      panel: "knee panel",
      fasteners: [{ kind: "7 mm hexagon screw", count: 2, lengthMm: 16, tray: "D", place: "lower edge" }],
      clips: { count: 4, start: "upper edge", stay: "panel" },
      reaches: { parts: ["bodyComputer"], ports: ["loom.busTap", "loom.body"], places: ["knee space"] },
      airbagZone: true,
      caution: "The knee airbag sits behind it on some cars. Do not probe its plug.",
    },
    {
      id: "fuse-cover",
      title: "Fuse panel cover off",
      detail: "Pull at the finger hole.",
      back: { title: "Fuse panel cover on", detail: "Label to the inside." },
      after: [],
      minutes: minutes(0.5, 1, 2),
      side: "driver",
      level: "lower",
      panel: "fuse panel cover",
      reaches: { ports: ["loom.fusePanel"], places: ["fuse panel"] },
    },
    {
      id: "shroud",
      title: "Column shroud apart",
      detail: "Three screws from below, the halves unclip at the side.",
      back: { title: "Column shroud together", detail: "Wheel in every position once: nothing may rub." },
      after: [],
      minutes: minutes(3, 5, 9),
      tool: "T20",
      side: "driver",
      level: "middle",
      panel: "column shroud",
      fasteners: [{ kind: "T20 screw", count: 3, lengthMm: 12, tray: "E", place: "from below" }],
      reaches: { parts: ["wheelKeys"], ports: ["loom.wheel"], places: ["column shroud"] },
    },
    {
      id: "pillar",
      title: "A-pillar trim off",
      detail: "Pull at the top, unhook the tether, lift out.",
      back: { title: "A-pillar trim on", detail: "New tether clip if the old one opened; lead behind the airbag." },
      after: [],
      minutes: minutes(2, 4, 8),
      tool: "plastic wedge",
      side: "driver",
      level: "upper",
      panel: "A-pillar trim",
      clips: { count: 3, start: "top", stay: "panel" },
      hooks: "the foot of the trim into the dash",
      reaches: { places: ["A-pillar"] },
      airbagZone: true,
      caution: "Curtain airbag behind the trim: a lead goes behind it, never across its front.",
    },
    {
      id: "headlining",
      title: "Front edge of the headlining down",
      detail: "Light unit out, two clips at the edge; do not bend the headlining.",
      back: { title: "Headlining edge up", detail: "Mesh of the microphone free." },
      after: ["pillar"],
      minutes: minutes(3, 6, 12),
      tool: "T20",
      side: "driver",
      level: "upper",
      panel: "headlining edge",
      fasteners: [{ kind: "T20 screw", count: 2, lengthMm: 12, tray: "F", place: "under the lamp glass" }],
      opens: [{ a: "loom.mic", b: "carMic.main", lock: "tongue" }],
      reaches: { parts: ["carMic"], places: ["headlining edge"] },
    },
  ];
}

function climatePanel(): StripStep {
  return {
    id: "climate-panel",
    title: "Climate panel out",
    detail: "Unclip at both sides.",
    back: { title: "Climate panel in", detail: "Press at both sides." },
    after: ["vents"],
    minutes: minutes(2, 3, 6),
    tool: "plastic wedge",
    level: "middle",
    panel: "climate panel",
    clips: { count: 4, start: "left side", stay: "panel" },
    opens: [{ a: "loom.climatePanel", b: "climatePanel.main", lock: "slide" }],
    reaches: { parts: ["climatePanel"], ports: ["loom.climate"] },
    transfer: ["heater knobs"],
  };
}

function rear(): StripStep[] {
  return [
    {
      id: "sill",
      title: "Sill trims up",
      detail: "Pull straight up, from the rear.",
      back: { title: "Sill trims down", detail: "Carpet under the edge first." },
      after: [],
      minutes: minutes(3, 5, 9),
      side: "rear",
      level: "lower",
      panel: "sill trims",
      clips: { count: 10, start: "rear end", stay: "panel" },
      reaches: { places: ["sill"] },
    },
    {
      id: "tailgate",
      title: "Tailgate trim off",
      detail: "Two screws in the handle, then clips from the bottom.",
      back: { title: "Tailgate trim on", detail: "Drip loop of the lead at the grommet." },
      after: [],
      minutes: minutes(4, 7, 14),
      tool: "T20",
      side: "tailgate",
      level: "middle",
      panel: "tailgate trim",
      fasteners: [{ kind: "T20 screw", count: 2, lengthMm: 25, tray: "G", place: "in the handle" }],
      clips: { count: 9, start: "bottom edge", stay: "panel" },
      reaches: { parts: ["rearCamera"], ports: ["loom.camera", "loom.reverseLamp"], places: ["tailgate"] },
    },
  ];
}

function amplifier(): StripStep {
  return {
    id: "amplifier",
    title: "Amplifier free",
    detail: "Under the rear shelf; two nuts.",
    back: { title: "Amplifier in place", detail: "Optical leads without a kink." },
    after: [],
    minutes: minutes(5, 8, 15),
    tool: "10 mm socket",
    side: "tailgate",
    level: "lower",
    fasteners: [{ kind: "10 mm nut", count: 2, tray: "H" }],
    reaches: { parts: ["amplifier", "speakers"] },
  };
}

const minutes = (low: number, likely: number, high: number): Minutes => ({ low, likely, high });

const TRAY_SHAPE: PanelDrawing = {
  outline: [
    [8, 4],
    [92, 4],
    [100, 96],
    [0, 96],
  ],
  aspect: 0.7,
  marks: [
    { what: "start", at: [50, 92], to: [50, 70] },
    { what: "clip", at: [10, 50] },
    { what: "clip", at: [90, 50] },
    { what: "clip", at: [10, 88] },
    { what: "clip", at: [90, 88] },
    { what: "hook", at: [25, 6] },
    { what: "hook", at: [75, 6] },
  ],
};

const BAR_SHAPE: PanelDrawing = {
  outline: [
    [0, 10],
    [100, 10],
    [94, 95],
    [6, 95],
  ],
  aspect: 3,
  marks: [
    { what: "start", at: [50, 14], to: [50, 60] },
    { what: "clip", at: [12, 18] },
    { what: "clip", at: [35, 18] },
    { what: "clip", at: [65, 18] },
    { what: "clip", at: [88, 18] },
    { what: "clip", at: [15, 84] },
    { what: "clip", at: [85, 84] },
    { what: "plug", at: [50, 84] },
  ],
};

const SCREWED_SHAPE: PanelDrawing = {
  outline: [
    [0, 0],
    [100, 0],
    [100, 100],
    [0, 100],
  ],
  aspect: 1.8,
  marks: [
    { what: "screw", at: [5, 10], group: 0 },
    { what: "screw", at: [95, 10], group: 0 },
    { what: "screw", at: [5, 90], group: 1 },
    { what: "screw", at: [95, 90], group: 1 },
  ],
};
