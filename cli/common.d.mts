export function run(
  program: string,
  args: string[],
  options?: { quiet?: boolean; env?: Record<string, string>; cwd?: string; allowFailure?: boolean },
): Promise<{ code: number; output: string }>;
export function endProcess(pid: number, mark: string, patienceMs?: number): Promise<void>;
export function freePortFrom(wanted: number): Promise<number>;
export function sleep(ms: number): Promise<void>;
export function isOurs(pid: number, mark: string): boolean;
export function portFree(port: number): Promise<boolean>;
export function using<T>(end: () => Promise<void>, work: () => Promise<T>): Promise<T>;
