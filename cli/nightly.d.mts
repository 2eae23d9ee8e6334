export function nightlyName(day: Date): string;
export function isDue(names: readonly string[], now: Date): boolean;
export function superfluous(names: readonly string[], now: Date): string[];
