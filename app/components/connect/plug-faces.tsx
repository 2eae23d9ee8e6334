import { type ReactNode, useState } from "react";
import { type ContactRow, contactRows, type FaceSide, faceOf, LOCK_OPENS } from "~/core/connect/face";
import { waysWords } from "~/core/model/labels";
import type { Port } from "~/core/model/types";
import type { InHand } from "~/core/views/connection-row";
import { Button, ScrollX } from "../controls";
import { FaceView } from "../drawings/face-view";
import { PartPhotos } from "../library/part-photos";
import { WireLook } from "../library/wire-look";

export interface PlugHalf {
  name: string;
  port: Port;
  /** Contacts that change their cavity, by cavity: where they go, or come from. */
  moves: Readonly<Record<string, string>>;
}

/** Both halves of a connection as faces with their cavities, and every contact in words. */
export function PlugFaces({ halves, pictured = [] }: { halves: PlugHalf[]; pictured?: InHand["pictured"] }) {
  const [side, setSide] = useState<FaceSide>("mating");
  const lists = halves.map((h) => contactRows(h.port, h.moves));
  const [first, ...others] = lists.map((rows) => JSON.stringify(rows));
  const alike = others.length > 0 && others.every((o) => o === first);
  return (
    <div className="mt-2">
      <Button look="quiet" className="px-0!" onClick={() => setSide(side === "mating" ? "wires" : "mating")}>
        {side === "mating"
          ? "Seen from the mating side. Turn to the wires"
          : "Seen from the wires. Turn to the mating side"}
      </Button>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-6 2xl:grid-cols-2">
        {halves.map((h, i) => (
          <Half key={h.name} half={h} side={side}>
            {!alike && <Contacts label={`Contacts of ${h.name}`} rows={lists[i] ?? []} />}
          </Half>
        ))}
      </div>
      {alike && (
        <figure className="mt-4">
          <figcaption className="font-medium">Contacts of both halves</figcaption>
          <Contacts label="Contacts of both halves" rows={lists[0] ?? []} />
        </figure>
      )}
      {pictured.map(({ name, photos }) => (
        <PartPhotos key={name} name={name} photos={photos} />
      ))}
    </div>
  );
}

function Half({
  half: { name, port, moves },
  side,
  children,
}: {
  half: PlugHalf;
  side: FaceSide;
  children: ReactNode;
}) {
  const face = faceOf(port, side);
  const { connector } = port;
  if (!face || !connector) return <p className="text-quiet">{name}: no plug, a place inside.</p>;
  return (
    <figure>
      <figcaption className="font-medium">
        {name}
        <span className="block text-sm font-normal text-quiet">
          {[
            `${connector.family}, ${waysWords(connector.ways)}, ${connector.gender}`,
            connector.keying && `keying ${connector.keying}`,
            connector.colour,
            connector.lock && `lock: ${connector.opens ?? LOCK_OPENS[connector.lock]}`,
            connector.reversible && "goes in both ways round: mind it",
            side === "mating" ? "from the mating side" : "from the wires",
          ]
            .filter(Boolean)
            .join(" · ")}
        </span>
      </figcaption>
      <ScrollX label={`Face of ${name}`}>
        <FaceView face={face} name={name} moves={moves} />
      </ScrollX>
      {children}
    </figure>
  );
}

/** Every contact in words, with the look of its wire where the document says it. */
function Contacts({ label, rows }: { label: string; rows: readonly ContactRow[] }) {
  return (
    <ul className="mt-1" aria-label={label}>
      {rows.map(({ id, stamp, tag, words, move, wire }) => (
        <li key={id} className="flex flex-wrap items-center gap-x-3 border-b border-rule py-0.5 text-sm">
          <span className="num w-8 text-right">{stamp}</span>
          <span className="num w-10 font-medium">{tag}</span>
          <span className="min-w-0 flex-1">
            {words}
            {move && <strong className="block font-medium">It {move}</strong>}
          </span>
          {wire && (
            <span className="inline-flex items-center gap-2">
              <WireLook {...wire} />
              {`${wire.base}${wire.tracer ? `, ${wire.tracer} tracer` : ""}`}
            </span>
          )}
        </li>
      ))}
    </ul>
  );
}
