export function startServer(env: Record<string, string>): { pid: number };
export function serving(port: number): Promise<void>;
