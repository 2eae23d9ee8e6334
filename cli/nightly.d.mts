export function nightlyName(day: Date): string;
export function isDue(names: readonly string[], now: Date): boolean;
export function superfluous(names: readonly string[], now: Date): string[];
export function nightly(folder: string, env: Record<string, string>, clock?: () => Date): () => Promise<void>;
