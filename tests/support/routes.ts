/** The paths of the application, as its own list of routes has them. */
import routes from "../../app/routes";

interface Entry {
  path?: string;
  index?: boolean;
  children?: Entry[];
}

function* paths(entries: readonly Entry[], base = ""): Generator<string> {
  for (const e of entries) {
    const path = e.path ? `${base}/${e.path}` : base;
    if (e.children) yield* paths(e.children, path);
    if (e.path || e.index) yield path || "/";
  }
}

/** Every path with its parameters as names: `/jobs/:job/prove`. */
export const PATHS: readonly string[] = [...new Set(paths(routes as Entry[]))].filter((p) => p !== "/*");

/** A path with every parameter filled. */
export function filled(path: string, value: (name: string) => string): string {
  return path.replace(/:(\w+)/g, (_, name: string) => value(name));
}
