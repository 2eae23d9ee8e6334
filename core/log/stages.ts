export type Stage = "intake" | "fit" | "strip" | "connect" | "configure" | "bus" | "prove" | "handover";
/** The stages of a job in the order of the work. */
export const STAGES: readonly Stage[] = ["intake", "fit", "strip", "connect", "configure", "bus", "prove", "handover"];

export function isSurface(name: string): name is Stage {
  return (STAGES as readonly string[]).includes(name);
}
