export function removeLeftSockets(folder: string): void;
