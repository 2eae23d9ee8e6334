import { Mark } from "../marks";

/** How far a profile is proven by the shop's own closed jobs. */
export function ProvenMark({ closedJobs }: { closedJobs: number }) {
  if (closedJobs === 0) return <Mark tone="none">Not tried yet</Mark>;
  if (closedJobs === 1) return <Mark tone="watch">Tried once</Mark>;
  return <Mark tone="good">Proven by {closedJobs} jobs</Mark>;
}
