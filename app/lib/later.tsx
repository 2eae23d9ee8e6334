import { type ComponentType, lazy, type ReactNode, Suspense, useSyncExternalStore } from "react";
import { Notice } from "../components/marks";

const loads = new Set<() => Promise<unknown>>();

/** A script that comes apart from the page: when it is asked for, or before by `fetchAhead`. */
export function ahead<T>(load: () => Promise<T>): () => Promise<T> {
  loads.add(load);
  return load;
}

/** A part of a page that comes in a script of its own. `meanwhile` is its shape until then; the server draws it at once. */
export function later<P extends object>(
  load: () => Promise<ComponentType<P>>,
  meanwhile: ReactNode = <FocusShape />,
): ComponentType<P> {
  const fetched = ahead(load);
  const Part = lazy(async () => ({ default: await fetched().catch(() => NotLoaded) }));
  return (props: P) => (
    <Suspense fallback={meanwhile}>
      <Live>
        <Part {...props} />
      </Live>
    </Suspense>
  );
}

const never = () => () => undefined;

/** What the server has drawn takes no answer before its script is there: it would be shown and lost. */
function Live({ children }: { children: ReactNode }) {
  const live = useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
  return (
    <div className="contents" inert={!live}>
      {children}
    </div>
  );
}

/** Fetches what the pages loaded so far show later, so that it is there at the press, and without connection. */
export async function fetchAhead(): Promise<void> {
  await Promise.all([...loads].map((load) => load()));
}

function NotLoaded() {
  return (
    <Notice tone="stop" title="This part did not come">
      <p>There may be no connection, or a newer version of the program. Load the page again; nothing is lost.</p>
    </Notice>
  );
}

/** The shape of what is in hand while its script comes: title, words, button, picture. */
function FocusShape() {
  return (
    <div aria-busy="true" className="space-y-3 pt-2">
      <span className="sr-only">Loading</span>
      {["h-4 w-40", "h-8 w-3/4", "h-4 w-full", "h-11 w-52", "h-60 w-full"].map((bar) => (
        <div key={bar} className={`rounded-sm bg-rule/60 ${bar}`} />
      ))}
    </div>
  );
}
