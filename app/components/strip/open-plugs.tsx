import { lockWord } from "~/core/strip/back-points";
import { Section } from "../controls";
import { EntryButton } from "../entry-form";
import { Mark } from "../marks";

export interface OpenPlug {
  port: string;
  name: string;
  where: string;
  lock: string | undefined;
  airbag: boolean;
  /** Functions that stop when it is forgotten. */
  lost: string[];
  /** Connection of Connect that closes it; null when the kit sits in its place. */
  link: string | null;
}

/** Everything disconnected and not yet back: where it is, and what stops working if it is forgotten. */
export function OpenPlugs({ plugs }: { plugs: OpenPlug[] }) {
  return (
    <Section title="Open plugs" id="open-plugs" aside={String(plugs.length)}>
      {plugs.length === 0 ? (
        <p className="text-quiet">Every factory plug is home.</p>
      ) : (
        <ul className="space-y-3">
          {plugs.map((p) => (
            <li key={p.port} className="flex items-start gap-3">
              <div className="min-w-0 flex-1">
                <p className="font-medium">
                  {p.name} {p.airbag && <Mark tone="stop">Airbag plug</Mark>}
                </p>
                <p className="text-sm text-quiet">
                  {p.where}, {lockWord(p.lock)}
                </p>
                {p.lost.length > 0 && <p className="text-sm">If forgotten: no {p.lost.join(", ").toLowerCase()}.</p>}
                {!p.link && <p className="text-sm text-quiet">The kit goes between; it is ticked in Connect.</p>}
              </div>
              {p.link && (
                <EntryButton
                  body={{ kind: "connect.plug", data: { link: p.link, plugged: true } }}
                  label={`Plugged again: ${p.name}`}
                >
                  Home
                </EntryButton>
              )}
            </li>
          ))}
        </ul>
      )}
    </Section>
  );
}
