import type { JobPlan } from "./plan";

/** Lines of the customer's card that hold on this car with the choices taken. */
export function cardOf({ documents, applies }: Pick<JobPlan, "documents" | "applies">): string[] {
  return documents.kit.card.flatMap((line) => {
    if (typeof line === "string") return line;
    return applies(line) ? line.say : [];
  });
}
