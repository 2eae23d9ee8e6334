/**
 * Stored data with the names that its fields have now. Estimates of minutes and choices both said `usual`, as did cars
 * for the situation in which functions are tried unless they say another.
 *
 * @returns the value itself when nothing in it has an earlier name
 */
export function renamedFields(value: unknown): unknown {
  if (Array.isArray(value)) {
    const items = value.map(renamedFields);
    return items.every((item, i) => item === value[i]) ? value : items;
  }
  if (!isObject(value)) return value;
  const before = Object.entries(value);
  const after = before.map(([name, inner]) => renamedField(value, name, inner));
  const same = after.every(([name, inner], i) => name === before[i]?.[0] && inner === before[i]?.[1]);
  return same ? value : Object.fromEntries(after);
}

function renamedField(owner: Record<string, unknown>, name: string, value: unknown): [string, unknown] {
  if (name === "usual") {
    if ("low" in owner && "high" in owner) return ["likely", value];
    return [isObject(value) ? "defaultSituation" : "default", value];
  }
  if (name === "tells") return ["identifyingFeatures", value];
  if (name === "kind" && value === "school") return [name, "method"];
  return [name, renamedFields(value)];
}

function isObject(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null;
}
