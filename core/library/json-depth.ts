/** How deep brackets and braces go, those in strings aside. */
export function jsonDepth(json: string): number {
  let [depth, most, quoted] = [0, 0, false];
  for (let i = 0; i < json.length; i++) {
    const c = json[i];
    if (quoted) {
      if (c === "\\") i++;
      else if (c === '"') quoted = false;
    } else if (c === '"') quoted = true;
    else if (c === "[" || c === "{") most = Math.max(most, ++depth);
    else if (c === "]" || c === "}") depth--;
  }
  return most;
}
