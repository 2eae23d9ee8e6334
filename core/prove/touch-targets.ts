/** The five places of the picture that are touched, as shares of it: x from its left edge, y from its top. */

export interface Place {
  x: number;
  y: number;
}

export const TARGETS = {
  topLeft: { name: "top left", at: { x: 0.1, y: 0.1 } },
  topRight: { name: "top right", at: { x: 0.9, y: 0.1 } },
  centre: { name: "centre", at: { x: 0.5, y: 0.5 } },
  bottomLeft: { name: "bottom left", at: { x: 0.1, y: 0.9 } },
  bottomRight: { name: "bottom right", at: { x: 0.9, y: 0.9 } },
} as const satisfies Record<string, { name: string; at: Place }>;
export type TargetId = keyof typeof TARGETS;
export const TARGET_IDS = Object.keys(TARGETS) as [TargetId, ...TargetId[]];
