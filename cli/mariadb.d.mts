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

/** Settings by which a program finds a database: ITERON_DB_*. */
export function environment(port: number, secret: string, database: string): Record<string, string>;
