export function startMariadb(
  name: string,
  wantedPort: number,
): Promise<{
  pid: number;
  port: number;
  mark: string;
  env(database: string): Record<string, string>;
  stop(): Promise<void>;
}>;
