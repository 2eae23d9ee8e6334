export function rotate(file: string, maxBytes?: number): void;
