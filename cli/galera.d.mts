import type { Connection } from "mysql2/promise";

export function startCluster(folder?: string): Promise<{
  origin: string;
  env: Record<string, string>;
  nodes: readonly number[];
  servers: readonly number[];
  killNode(n: number): Promise<void>;
  startNode(n: number): Promise<void>;
  killServer(s: number): Promise<void>;
  startServer(s: number): void;
  status(n: number): Promise<Record<string, string>>;
  connect(n: number): Promise<Connection>;
  stop(): Promise<void>;
}>;
