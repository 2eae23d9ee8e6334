/** Names of firmware versions: which is older, and what stands on a label. */

/**
 * Compares two version names piece by piece, numbers as numbers: `R3-90` is before `R3-210`, `2.4` before `2.10`.
 *
 * @returns negative when `a` is older, zero when they are equal, positive when `a` is newer
 */
export function compareVersions(a: string, b: string): number {
  const pieces = (v: string) => v.toUpperCase().match(/\d+|[A-Z]+/g) ?? [];
  const [x, y] = [pieces(a), pieces(b)];
  for (let i = 0; i < Math.max(x.length, y.length); i++) {
    const [p, q] = [x[i] ?? "0", y[i] ?? "0"];
    const numeric = /^\d/.test(p) && /^\d/.test(q);
    const order = numeric ? Number(p) - Number(q) : p < q ? -1 : p > q ? 1 : 0;
    if (order !== 0) return order;
  }
  return 0;
}

/**
 * Reads a version out of what stands on the part label or the version screen, by the ways this radio writes it.
 *
 * @param written patterns such as `SW R3-*` or `R3 *`; `*` is the part that follows, a lone `*` after the series name
 * means the number alone
 * @param known versions that occur in the update list; a text that contains one of them needs no pattern
 * @example readVersion("Part 0VM-556 SW R3-210 / HW 2", ["SW R3-*"], ["R3-210"]) // "R3-210"
 */
export function readVersion(text: string, written: readonly string[], known: readonly string[]): string | null {
  const flat = text.replace(/\s+/g, " ");
  const literal = known.filter((v) => new RegExp(`(^|[^A-Za-z0-9.])${escaped(v)}($|[^A-Za-z0-9.])`, "i").test(flat));
  if (literal.length > 0) return literal.sort(compareVersions).at(-1) ?? null;
  for (const pattern of written) {
    const star = pattern.indexOf("*");
    if (star < 0) continue;
    const before = pattern.slice(0, star);
    const found = new RegExp(`${escaped(before)}\\s*([A-Za-z0-9][A-Za-z0-9.]*)`, "i").exec(flat);
    if (!found?.[1]) continue;
    const series = before.trim().split(/[ :]/).at(-1) ?? "";
    return series.endsWith("-") ? `${series}${found[1]}` : `${series}-${found[1]}`;
  }
  return null;
}

function escaped(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&").replace(/ /g, "\\s*");
}
