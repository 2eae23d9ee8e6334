import type { ChildProcess } from "node:child_process";

export function backOffMs(deaths: readonly number[], now: number): number | null;
export function supervised<T>(
  name: string,
  start: () => Promise<{ child: ChildProcess; stop: () => Promise<void>; started: T }>,
  options: {
    stopping: (() => Promise<void>)[];
    giveUp: (message: string) => void;
    tell?: (message: string) => void;
    passing?: () => string | null;
    pause?: (ms: number) => Promise<void>;
  },
): Promise<T>;
