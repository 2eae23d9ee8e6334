/** Identifiers of messages, for what needs no log. */

/** Identifier as written in logs: 3 hexadecimal digits, 8 for 29 bits. */
export function idText(id: number, extended: boolean): string {
  return id
    .toString(16)
    .toUpperCase()
    .padStart(extended ? 8 : 3, "0");
}

/** Key that keeps 11-bit and 29-bit identifiers of the same value apart. */
export function idKey(id: number, extended: boolean): number {
  return extended ? id + 0x80000000 : id;
}
