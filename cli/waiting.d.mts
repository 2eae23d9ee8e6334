export function waitFor(options: {
  name: string;
  answers(): Promise<boolean>;
  pid: number;
  log: string;
  stuckMs?: number;
  tell?(message: string): void;
}): Promise<void>;
