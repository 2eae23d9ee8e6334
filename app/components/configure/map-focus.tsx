import { Link } from "react-router";
import type { Command } from "~/core/log/entry";
import { Focus } from "../bench/focus";
import { EntryButton } from "../entry-form";

export interface MapChoice {
  slug: string;
  version: number;
  title: string;
}

export function takeMap({ slug, version }: MapChoice): Command {
  return { kind: "configure.map", data: { map: { slug, version } } };
}

/** Which coding map says what the words of this car mean. */
export function MapFocus({ maps, taken }: { maps: readonly MapChoice[]; taken: string | null }) {
  return (
    <Focus
      kicker="Coded words"
      title={taken ?? "Which coding map is for this car"}
      actions={maps.map((m, i) => (
        <EntryButton
          key={`${m.slug} ${m.version}`}
          look={taken === null && i === 0 ? "next" : "plain"}
          body={takeMap(m)}
          shortcut={i === 0 ? "Space" : undefined}
        >
          {taken === null ? "Use" : "Use instead"}: {m.title}, version {m.version}
        </EntryButton>
      ))}
    >
      <p>
        {maps.length > 0
          ? "It says where the control units keep their words, and what the bits mean. Nothing is sent to the car by taking it."
          : "The library has no other coding map for this car. Without one, settings are ticked by hand."}
      </p>
      <p>
        <Link to="/library?kind=coding" className="inline-flex min-h-11 items-center underline">
          Coding maps in the library
        </Link>
      </p>
    </Focus>
  );
}
