/** The side of a part on which its sockets are: from its document, or laid out in rows where the document is silent. */
import type { Part, Port, System } from "../model/types";
import type { BackDrawing, Point } from "./drawing";

export interface Socket {
  port: string;
  name: string;
  colour: string;
  keying: string;
  family: string;
  /** Corner and size, in millimetres. */
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface Back {
  part: string;
  name: string;
  width: number;
  height: number;
  sockets: Socket[];
  /** Where the sockets are is not known: they are drawn in the order of the document. */
  guessed: boolean;
}

/** Millimetres of a contact row and column, a wall around them, and the gap between sockets that are laid out. */
const PITCH = 5;
const WALL = 4;
const GAP = 9;
/** Room for a letter of the name under a socket. */
const LETTER = 3.4;
/** Contacts in one row of a housing. */
const ROW = 10;
/** As wide as a double slot of a dash, ISO 7736. */
const USUAL_WIDTH = 180;

/** @returns null for parts without sockets */
export function backOf(system: System, partId: string): Back | null {
  const part = system.parts.find((p) => p.id === partId);
  const ports = part?.ports.filter((p) => p.connector) ?? [];
  if (!part || ports.length === 0) return null;
  const drawn = part.back;
  const known = drawn && ports.every((p) => drawn.sockets.some((s) => s.port === p.id));
  return known ? placed(part, ports, drawn) : laidOut(part, ports);
}

/** The usual drawing of a part: its sockets laid out in rows. The shop moves them to where they are. */
export function usualBack(part: Part): BackDrawing | null {
  const ports = part.ports.filter((p) => p.connector);
  if (ports.length === 0) return null;
  const { width, height, sockets } = laidOut(part, ports);
  return {
    width: Math.ceil(width),
    height: Math.ceil(height),
    sockets: sockets.map((s, i) => ({
      port: ports[i]?.id ?? "",
      at: [Math.round(s.x + s.width / 2), Math.round(s.y + s.height / 2)],
    })),
  };
}

function placed(part: Part, ports: readonly Port[], back: NonNullable<Part["back"]>): Back {
  const middle = new Map(back.sockets.map((s) => [s.port, s.at]));
  return {
    part: part.id,
    name: part.name,
    width: back.width,
    height: back.height,
    sockets: ports.map((p) => socket(part, p, middle.get(p.id) ?? [0, 0])),
    guessed: false,
  };
}

function laidOut(part: Part, ports: readonly Port[]): Back {
  const sockets: Socket[] = [];
  let [x, y, height, right] = [0, GAP, 0, 0];
  for (const port of ports) {
    const { width, height: high } = sizeOf(port);
    const room = Math.max(width, port.label.length * LETTER) + GAP;
    if (x > 0 && x + room > USUAL_WIDTH) [x, y, height] = [0, y + height + 2 * GAP, 0];
    sockets.push(socket(part, port, [x + room / 2, y + high / 2]));
    x += room;
    right = Math.max(right, x);
    height = Math.max(height, high);
  }
  return { part: part.id, name: part.name, width: right, height: y + height + 1.5 * GAP, sockets, guessed: true };
}

/** Outer size of a housing by its ways. */
function sizeOf({ connector }: Port): { width: number; height: number } {
  const ways = connector?.ways ?? 1;
  const rows = Math.ceil(ways / ROW);
  return { width: Math.ceil(ways / rows) * PITCH + 2 * WALL, height: rows * PITCH + 2 * WALL };
}

function socket(part: Part, port: Port, [x, y]: Point): Socket {
  const { width, height } = sizeOf(port);
  const { colour = "", keying = "", family = "" } = port.connector ?? {};
  return {
    port: `${part.id}.${port.id}`,
    name: port.label,
    colour,
    keying,
    family,
    x: x - width / 2,
    y: y - height / 2,
    width,
    height,
  };
}
