/**
 * An identifier for one form of a page: the page's seed (a UUIDv7) with its random tail replaced by a hash of the key.
 * The same form of the same page gives the same identifier, so that a double tap is one row.
 *
 * @example entryId("0190...-7...-8...-0123456789ab", "plug:k-car") // same prefix, other tail
 */
export function entryId(seed: string, key: string): string {
  let a = 0x811c9dc5;
  let b = 0x1000193;
  for (let i = 0; i < key.length; i++) {
    a = Math.imul(a ^ key.charCodeAt(i), 0x01000193);
    b = Math.imul(b ^ (key.charCodeAt(i) + i), 0x85ebca6b);
  }
  const hex = (n: number) => (n >>> 0).toString(16).padStart(8, "0");
  return seed.slice(0, 24) + `${hex(a)}${hex(b)}`.slice(0, 12);
}
