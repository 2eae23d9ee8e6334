import type { Port, System } from "./types";

/** Finds a port by `part.port`. */
export function findPort(system: System, ref: string): Port | undefined {
  const [partId, portId] = ref.split(".");
  return system.parts.find((p) => p.id === partId)?.ports.find((p) => p.id === portId);
}
