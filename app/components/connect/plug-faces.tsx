import { useState } from "react";
import { type FaceSide, faceOf, LOCK_OPENS } from "~/core/connect/face";
import { KIND_NAMES } from "~/core/model/kinds";
import type { Port } from "~/core/model/types";
import { Button, ScrollX } from "../controls";
import { WireLook } from "../library/wire-look";

/** Strokes, not colours, tell supply, control and content apart. */
const DASHES = ["2 3", "6 3", undefined];
const CELL = 44;

export interface PlugHalf {
  name: string;
  port: Port;
  /** Contacts that change their cavity, by cavity: where they go, or come from. */
  moves: Record<string, string>;
}

/** Both halves of a connection as faces with their cavities, and every contact in words. */
export function PlugFaces({ halves }: { halves: PlugHalf[] }) {
  const [side, setSide] = useState<FaceSide>("mating");
  return (
    <div className="mt-2">
      <Button look="quiet" className="px-0!" onClick={() => setSide(side === "mating" ? "wires" : "mating")}>
        {side === "mating"
          ? "Seen from the mating side. Turn to the wires"
          : "Seen from the wires. Turn to the mating side"}
      </Button>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-6 2xl:grid-cols-2">
        {halves.map((h) => (
          <Half key={h.name} half={h} side={side} />
        ))}
      </div>
    </div>
  );
}

function Half({ half: { name, port, moves }, side }: { half: PlugHalf; side: FaceSide }) {
  const face = faceOf(port, side);
  const { connector } = port;
  if (!face || !connector) return <p className="text-quiet">{name}: no plug, a place inside.</p>;
  const width = face.columns * CELL + 16;
  const height = face.rows * CELL + 26;
  return (
    <figure>
      <figcaption className="font-medium">
        {name}
        <span className="block text-sm font-normal text-quiet">
          {[
            `${connector.family}, ${connector.ways} ways, ${connector.gender}`,
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
        <svg
          viewBox={`0 0 ${width} ${height}`}
          style={{ width: Math.min(width * 1.1, 560), minWidth: Math.min(width, 320) }}
          role="img"
          aria-label={`${name}, ${side === "mating" ? "mating side" : "side of the wires"}: ${face.cavities
            .filter((c) => c.contact)
            .map((c) => `${c.id} ${c.tag}`)
            .join(", ")}`}
        >
          {/* The lock sits above the middle, so that the face has a top. */}
          <rect x={width / 2 - 16} y={1} width={32} height={9} rx={2} fill="var(--strong)" />
          <rect
            x={1}
            y={9}
            width={width - 2}
            height={height - 10}
            rx={5}
            fill="var(--raised)"
            stroke="var(--ink)"
            strokeWidth={2}
          />
          {face.cavities.map((c) => (
            <g key={`${c.row}-${c.column}`} transform={`translate(${8 + c.column * CELL} ${17 + c.row * CELL})`}>
              <rect
                x={2}
                y={2}
                width={CELL - 4}
                height={CELL - 4}
                rx={connector.gender === "female" ? 3 : 10}
                fill={c.contact ? "var(--paper)" : "none"}
                stroke="var(--ink)"
                strokeOpacity={c.contact ? 1 : 0.3}
                strokeWidth={c.contact ? 1.75 : 1}
                strokeDasharray={c.layer >= 0 ? DASHES[c.layer] : undefined}
              />
              {moves[c.id] && (
                <path
                  d={moves[c.id]?.startsWith("goes") ? "M31 13l8-8M39 11V5h-6" : "M39 5l-8 8M31 7v6h6"}
                  fill="none"
                  stroke="var(--accent)"
                  strokeWidth={2.5}
                />
              )}
              <text
                x={CELL / 2}
                y={17}
                textAnchor="middle"
                fontSize={12}
                fill="var(--quiet)"
                fontFamily="var(--font-mono)"
              >
                {c.id}
              </text>
              <text
                x={CELL / 2}
                y={33}
                textAnchor="middle"
                fontSize={12}
                fontWeight={600}
                fill="var(--ink)"
                fontFamily="var(--font-mono)"
              >
                {c.tag}
              </text>
            </g>
          ))}
        </svg>
      </ScrollX>
      <ul className="mt-1">
        {face.cavities.map(
          ({ contact, id, tag }) =>
            contact && (
              <li key={id} className="flex flex-wrap items-center gap-x-3 border-b border-rule py-0.5 text-sm">
                <span className="num w-8 text-right">{id}</span>
                <span className="num w-10 font-medium">{tag}</span>
                <span className="min-w-0 flex-1">
                  {contact.label ?? KIND_NAMES[contact.kind]}
                  {moves[id] && <strong className="block font-medium">It {moves[id]}</strong>}
                </span>
                {contact.wire && (
                  <span className="inline-flex items-center gap-2">
                    <WireLook {...contact.wire} />
                    {contact.wire.base}
                    {contact.wire.tracer && `, ${contact.wire.tracer} tracer`}
                  </span>
                )}
              </li>
            ),
        )}
      </ul>
    </figure>
  );
}
