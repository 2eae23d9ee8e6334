import type { Back } from "~/core/drawing/back";
import type { LeadRoute } from "~/core/drawing/lead";
import { BackCase, Sockets } from "./back-view";

/** Millimetres: the lead runs down on the left, what it goes into stands beside it. */
const SPINE = 6;
const LEFT = 18;
const TITLE = 11;
const GAP = 10;
/** A part without a drawing is a box with its name. */
const BOX = { width: 120, height: 14 };

interface Props {
  route: LeadRoute;
  backs: readonly Back[];
  /** Ports of the connection in hand. */
  inHand: readonly string[];
  filled: ReadonlySet<string>;
  /** Connections that are made. */
  made: ReadonlySet<string>;
}

/** A lead from end to end, each end drawn into its socket: IN cannot be taken for OUT. */
export function LeadView({ route, backs, inHand, filled, made }: Props) {
  const parts = [...new Map(route.ends.map((e) => [e.part, e.name]))];
  // The part in hand stands first.
  parts.sort(([a], [b]) => Number(holds(inHand, b)) - Number(holds(inHand, a)));
  let top = 0;
  const devices = parts.map(([part, name]) => {
    const back = backs.find((b) => b.part === part) ?? null;
    const y = top + TITLE;
    top = y + (back?.height ?? BOX.height) + GAP;
    return { part, name, back, y };
  });
  const width = LEFT + Math.max(...devices.map((d) => d.back?.width ?? BOX.width));
  const ends = route.ends.flatMap((end) => {
    const device = devices.find((d) => d.part === end.part);
    if (!device) return [];
    const socket = device.back?.sockets.find((s) => s.port === end.port);
    return [
      {
        ...end,
        hand: inHand.includes(end.port),
        made: made.has(end.link),
        x: LEFT + (socket ? socket.x : 0),
        y: device.y + (socket ? socket.y + socket.height / 2 : BOX.height / 2),
      },
    ];
  });
  // The end in hand is drawn last, over the others.
  ends.sort((a, b) => Number(a.hand) - Number(b.hand));
  const heights = ends.map((e) => e.y);
  return (
    <figure>
      <figcaption className="font-medium">{route.name}</figcaption>
      <svg
        viewBox={`-2 -2 ${width + 4} ${top - GAP + 6}`}
        className="w-full"
        style={{ maxWidth: `${width * 2.2}px` }}
        role="img"
        aria-label={`${route.name}: ${ends
          .map((e) => `${e.end || "one end"} into ${e.name}${e.hand ? ", in hand" : e.made ? ", plugged" : ", open"}`)
          .join("; ")}`}
      >
        {devices.map(({ part, name, back, y }) => (
          <g key={part}>
            <text x={LEFT} y={y - 3} fontSize="7.6" fontWeight={600} fill="var(--ink)">
              {name}
            </text>
            <g transform={`translate(${LEFT} ${y})`}>
              {back ? (
                <BackCase {...back} />
              ) : (
                <>
                  <rect {...BOX} rx="2" fill="none" stroke="var(--ink)" strokeDasharray="3 2" />
                  <text x="5" y={BOX.height / 2 + 2.2} fontSize="6.4" fill="var(--ink)">
                    {route.ends.find((e) => e.part === part)?.into}
                  </text>
                </>
              )}
            </g>
          </g>
        ))}
        {heights.length > 1 && (
          <path
            d={`M ${SPINE} ${Math.min(...heights)} V ${Math.max(...heights)}`}
            stroke="var(--ink)"
            strokeWidth="3"
            strokeLinecap="round"
          />
        )}
        {ends.map((e) => (
          <path
            key={e.port}
            d={`M ${SPINE} ${e.y} H ${e.x}`}
            stroke={e.hand ? "var(--accent)" : "var(--ink)"}
            strokeWidth={e.hand ? 3.5 : 2}
            strokeLinecap="round"
            {...(e.made ? {} : { strokeDasharray: "4 3.5" })}
          />
        ))}
        {devices.map(({ part, back, y }) =>
          back ? (
            <g key={part} transform={`translate(${LEFT} ${y})`}>
              <Sockets back={back} inHand={inHand} filled={filled} />
            </g>
          ) : null,
        )}
      </svg>
      <p className="text-sm text-quiet">Whole line: plugged. Broken line: still open.</p>
    </figure>
  );
}

function holds(ports: readonly string[], part: string): boolean {
  return ports.some((p) => p.startsWith(`${part}.`));
}
