/** A task of the way back as a thing of its own: the same step stands on the way in, too. */
export function backKey(task: string): string {
  return `back ${task}`;
}
