/** How a radio looks in the dash: its front, its screen, its knobs and keys. */
import { box, type DashShape, type Outline, type Point } from "../../../core/drawing/drawing";
import type { RadioFeatures } from "./features";

/** Where the radio sits in the usual dash. */
const FRONT = { x: 586, y: 316, width: 218, height: 114 };

export function radioDash(f: RadioFeatures): DashShape[] {
  const { x, y, width, height } = FRONT;
  const front: DashShape = {
    id: "radio",
    what: "radio",
    name: f.name,
    panel: "radio",
    part: "radio",
    outline: box(x, y, width, height),
  };
  const inFront = box(x + 46, y + 12, 156, 72);
  const keys = Array.from(
    { length: f.phoneKey ? 6 : 5 },
    (_, i): DashShape => ({
      id: `key-${i + 1}`,
      what: "key",
      ...(f.phoneKey && i === 5 ? { name: "phone key" } : {}),
      ...(f.frontKeys && i === 0 ? { name: "menu key", part: "radioFront" } : {}),
      outline: box(x + 42 + i * 23, y + height - 24, 19, 14),
    }),
  );
  const knob: DashShape[] = f.knob
    ? [{ id: "knob", what: "knob", name: "volume knob", outline: circle(x + 22, y + 60, 15) }]
    : [];
  const two = f.screen?.place === "upper of two";
  if (f.screen?.place === "separate" || two)
    return [
      front,
      two
        ? { id: "lower-screen", what: "screen", name: "lower screen", part: "radio", outline: inFront }
        : { id: "slot", what: "slot", outline: box(x + 48, y + 16, 130, 8) },
      ...knob,
      ...keys,
      {
        id: "screen",
        what: "screen",
        name: two ? "upper screen" : "screen",
        panel: "screen",
        part: "screen",
        outline: box(572, 128, 246, 94),
      },
    ];
  if (f.screen)
    return [
      front,
      {
        id: "screen",
        what: "screen",
        name: "screen behind the radio's front",
        part: "screen",
        outline: inFront,
      },
      ...knob,
      ...keys,
    ];
  return [
    front,
    { id: "slot", what: "slot", outline: box(x + 48, y + 14, 130, 8) },
    { id: "line", what: "screen", name: "text line", part: "radio", outline: box(x + 60, y + 36, 110, 22) },
    ...knob,
    ...keys,
  ];
}

function circle(x: number, y: number, radius: number): Outline {
  const corners = 16;
  return Array.from({ length: corners }, (_, i): Point => {
    const turn = (2 * Math.PI * i) / corners;
    return [Math.round(x + radius * Math.cos(turn)), Math.round(y + radius * Math.sin(turn))];
  });
}
