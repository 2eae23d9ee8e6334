import { v7 } from "uuid";

/** A new identifier: UUID version 7, so that rows of one time lie together. */
export function newId(): string {
  return v7();
}
