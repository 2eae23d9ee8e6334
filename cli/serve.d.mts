export function startServer(env: Record<string, string>, log?: string): { pid: number };
export function serving(port: number, server?: { pid?: number; log?: string }): Promise<void>;
