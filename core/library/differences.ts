/** One field that differs between two versions of a document, in words. */
export interface Difference {
  /** For example `parts › Radio R2 › ports › main plug › contacts › 9 › label`. */
  path: string;
  change: "added" | "removed" | "changed";
  before: string;
  after: string;
}

/** Fields that say nothing to a reader: they follow from storing. */
const UNTOLD: ReadonlySet<string> = new Set(["version"]);

/**
 * Differences of two JSON documents, field by field. Members of lists are matched by `id`, else by `say`, `name` or
 * their value, so that one inserted line is one difference and not a shift of all that follow.
 */
export function differences(before: unknown, after: unknown): Difference[] {
  const found: Difference[] = [];
  compare(before, after, [], found);
  return found;
}

function compare(a: unknown, b: unknown, path: readonly string[], found: Difference[]): void {
  if (Object.is(a, b)) return;
  if (Array.isArray(a) && Array.isArray(b)) return compareLists(a, b, path, found);
  if (isObject(a) && isObject(b)) {
    for (const key of new Set([...Object.keys(a), ...Object.keys(b)])) {
      if (path.length === 0 && UNTOLD.has(key)) continue;
      compare(a[key], b[key], [...path, key], found);
    }
    return;
  }
  const where = path.join(" › ");
  if (a === undefined) found.push({ path: where, change: "added", before: "", after: words(b) });
  else if (b === undefined) found.push({ path: where, change: "removed", before: words(a), after: "" });
  else if (words(a) !== words(b)) found.push({ path: where, change: "changed", before: words(a), after: words(b) });
}

function compareLists(
  a: readonly unknown[],
  b: readonly unknown[],
  path: readonly string[],
  found: Difference[],
): void {
  const keyed = (list: readonly unknown[]) => {
    const seen = new Map<string, number>();
    return new Map(
      list.map((item) => {
        const key = keyOf(item);
        const count = seen.get(key) ?? 0;
        seen.set(key, count + 1);
        return [count === 0 ? key : `${key} (${count + 1})`, item] as const;
      }),
    );
  };
  const [left, right] = [keyed(a), keyed(b)];
  for (const [key, item] of left) compare(item, right.get(key), [...path, nameOf(item ?? right.get(key), key)], found);
  for (const [key, item] of right) if (!left.has(key)) compare(undefined, item, [...path, nameOf(item, key)], found);
}

function keyOf(item: unknown): string {
  if (isObject(item)) {
    for (const name of ["id", "setting", "say", "part", "pattern", "name"])
      if (typeof item[name] === "string") return String(item[name]);
    return JSON.stringify(item);
  }
  return String(item);
}

function nameOf(item: unknown, key: string): string {
  // A contact is called by its number, a port by its label.
  if (isObject(item) && "direction" in item) return key;
  if (isObject(item))
    for (const name of ["name", "label", "title"]) if (typeof item[name] === "string") return String(item[name]);
  return key.length > 60 ? `${key.slice(0, 57)}...` : key;
}

function isObject(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

/** A value as one line. */
function words(value: unknown): string {
  if (value === undefined) return "";
  if (typeof value !== "object" || value === null) return String(value);
  if (isObject(value) && (typeof value.name === "string" || typeof value.say === "string"))
    return String(value.name ?? value.say);
  const text = JSON.stringify(value);
  return text.length > 120 ? `${text.slice(0, 117)}...` : text;
}
