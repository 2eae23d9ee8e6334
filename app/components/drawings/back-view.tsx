import type { Back, Socket } from "~/core/drawing/back";

interface Shown {
  back: Back;
  /** Ports of the connection in hand. */
  inHand: readonly string[];
  filled: ReadonlySet<string>;
}

/** The sockets of a part in their places: the one in hand outlined heavily, filled ones filled. */
export function BackView({ back, inHand, filled }: Shown) {
  const hand = back.sockets.find((s) => inHand.includes(s.port));
  return (
    <figure>
      <figcaption className="font-medium">
        {back.name}
        {back.guessed && <span className="font-normal text-quiet">, sockets in the order of its document</span>}
      </figcaption>
      <svg
        viewBox={`-2 -2 ${back.width + 4} ${back.height + 4}`}
        className="w-full"
        style={{ maxWidth: `${back.width * 2.4}px` }}
        role="img"
        aria-label={`${back.name}: ${hand ? `in hand is ${hand.name}; ` : ""}plugged: ${
          back.sockets
            .filter((s) => filled.has(s.port))
            .map((s) => s.name)
            .join(", ") || "nothing"
        }`}
      >
        <BackCase {...back} />
        <Sockets back={back} inHand={inHand} filled={filled} />
      </svg>
    </figure>
  );
}

/** The case of a part, in millimetres. */
export function BackCase({ width, height }: Pick<Back, "width" | "height">) {
  return <rect width={width} height={height} rx="4" fill="var(--raised)" stroke="var(--ink)" strokeWidth="1.2" />;
}

/** Its sockets, in millimetres. */
export function Sockets({ back, inHand, filled }: Shown) {
  return back.sockets.map((s) => (
    <SocketShape key={s.port} socket={s} inHand={inHand.includes(s.port)} filled={filled.has(s.port)} />
  ));
}

function SocketShape({ socket: s, inHand, filled }: { socket: Socket; inHand: boolean; filled: boolean }) {
  return (
    <g>
      <rect
        x={s.x}
        y={s.y}
        width={s.width}
        height={s.height}
        rx="2"
        fill={filled ? "var(--ink)" : "var(--paper)"}
        stroke={inHand ? "var(--accent)" : "var(--ink)"}
        strokeWidth={inHand ? 3 : 1}
      />
      <text
        x={s.x + s.width / 2}
        y={s.y + s.height / 2 + 2.4}
        textAnchor="middle"
        fontSize="7"
        fontFamily="var(--font-mono)"
        fontWeight="600"
        fill={filled ? "var(--paper)" : "var(--ink)"}
      >
        {s.keying}
      </text>
      <text
        x={s.x + s.width / 2}
        y={s.y + s.height + 6.5}
        textAnchor="middle"
        fontSize="6.2"
        fontWeight={inHand ? 700 : 400}
        fill="var(--ink)"
        // Lines that pass stay behind the name.
        paintOrder="stroke"
        stroke="var(--raised)"
        strokeWidth="2"
      >
        {s.name}
      </text>
    </g>
  );
}
