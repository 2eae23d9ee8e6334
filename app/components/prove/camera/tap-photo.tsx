import { Camera, ScanEye, Undo2 } from "lucide";
import { type KeyboardEvent, type PointerEvent, type ReactNode, useEffect, useState } from "react";
import { toast } from "sonner";
import type { Point } from "~/core/geometry/unit-square";
import { Button, buttonLook } from "../../controls";
import { pointOf } from "../../drawings/pressed";
import { Icon } from "../../icon";

export interface Photo {
  url: string;
  width: number;
  height: number;
}

/** Takes or chooses a photo; on a stand-in car it is made. */
export function PhotoButton({
  standIn,
  onPhoto,
  next,
}: {
  standIn: string | null;
  onPhoto(photo: Photo): void;
  next?: boolean;
}) {
  const [busy, setBusy] = useState(false);
  const load = async (url: string) => {
    setBusy(true);
    const image = new Image();
    image.src = url;
    try {
      await image.decode();
      onPhoto({ url, width: image.naturalWidth, height: image.naturalHeight });
    } catch {
      toast.error("This file is no picture that the browser can show. Take a photo or choose a JPEG or PNG.");
    }
    setBusy(false);
  };
  return (
    <>
      <label className={`${buttonLook(next && !standIn ? "next" : "plain")} cursor-pointer`}>
        <Icon of={Camera} size={18} /> Photo of the screen
        <input
          type="file"
          accept="image/*"
          capture="environment"
          className="sr-only"
          onChange={(e) => {
            const file = e.currentTarget.files?.[0];
            if (file) void load(URL.createObjectURL(file));
          }}
        />
      </label>
      {standIn && (
        <Button look={next ? "next" : "plain"} disabled={busy} onClick={() => void load(standIn)}>
          <Icon of={ScanEye} size={18} /> {busy ? "Loading ..." : "Photo of the stand-in car"}
        </Button>
      )}
    </>
  );
}

/** While a finger is down it moves the cross by a part of its own way, so that it is set to the pixel. */
const FINE = 0.35;
const LOUPE = 7;

/**
 * A photo on which one thing after the other is tapped. Press near it, draw it into the cross of the enlarged picture and
 * let go; arrow keys and Enter do the same.
 */
export function TapPhoto({
  photo,
  say,
  taps,
  onTap,
  onBack,
  skip,
  children,
}: {
  photo: Photo;
  /** What is to be tapped now; null: nothing. */
  say: string | null;
  taps: readonly { id: string; at: Point }[];
  onTap(at: Point): void;
  /** Takes the last tap back; absent when there is none. */
  onBack: (() => void) | undefined;
  /** Leaves out what is to be tapped. */
  skip?: { say: string; act(): void } | undefined;
  /** Drawn over the photo, in its pixels. */
  children?: ReactNode;
}) {
  const [hand, setHand] = useState<{ from: Point; at: Point } | null>(null);
  const [cross, setCross] = useState<Point | null>(null);
  useEffect(() => () => (photo.url.startsWith("blob:") ? URL.revokeObjectURL(photo.url) : undefined), [photo.url]);
  const { width, height } = photo;
  const inside = ({ x, y }: Point): Point => ({
    x: Math.min(width, Math.max(0, x)),
    y: Math.min(height, Math.max(0, y)),
  });
  const at = hand
    ? inside({ x: hand.from.x + FINE * (hand.at.x - hand.from.x), y: hand.from.y + FINE * (hand.at.y - hand.from.y) })
    : cross;

  const down = (e: PointerEvent<SVGSVGElement>) => {
    if (say === null) return;
    e.currentTarget.setPointerCapture(e.pointerId);
    const from = pointOf(e);
    setHand({ from, at: from });
  };
  const up = () => {
    if (hand && at && say !== null) onTap(at);
    setHand(null);
    setCross(null);
  };
  const keys = (e: KeyboardEvent) => {
    const step = e.shiftKey ? width / 40 : width / 800;
    const move = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
    if (move) {
      const from = cross ?? { x: width / 2, y: height / 2 };
      setCross(inside({ x: from.x + step * (move[0] ?? 0), y: from.y + step * (move[1] ?? 0) }));
    } else if (e.key === "Enter" && cross && say !== null) onTap(cross);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const size = width * 0.34;
  return (
    <div>
      <div className="mb-2 flex min-h-11 flex-wrap items-center gap-x-3 gap-y-1">
        <p className="text-lg font-medium" role="status">
          {say ?? "Everything is tapped."}
        </p>
        {skip && (
          <Button look="quiet" onClick={skip.act}>
            {skip.say}
          </Button>
        )}
        {onBack && (
          <Button look="quiet" onClick={onBack}>
            <Icon of={Undo2} size={16} /> Last tap back
          </Button>
        )}
      </div>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        className="max-h-[75vh] w-full touch-none border border-rule"
        role="application"
        aria-label="Photo to be tapped. Arrow keys move the cross, with Shift in large steps; Enter sets it."
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it is tapped with keys, too
        tabIndex={0}
        onPointerDown={down}
        onPointerMove={(e) => hand && setHand({ ...hand, at: pointOf(e) })}
        onPointerUp={up}
        onPointerCancel={() => setHand(null)}
        onKeyDown={keys}
      >
        <image href={photo.url} width={width} height={height} />
        {children}
        {taps.map((t) => (
          <Cross key={t.id} at={t.at} size={width / 90} name={t.id} />
        ))}
        {at && (
          <>
            <Cross at={at} size={width / 60} />
            <Loupe photo={photo} at={at} size={size} left={at.x > width / 2} />
          </>
        )}
      </svg>
    </div>
  );
}

function Cross({ at: { x, y }, size, name }: { at: Point; size: number; name?: string }) {
  const d = `M${x - size} ${y}h${2 * size}M${x} ${y - size}v${2 * size}`;
  return (
    <g>
      <path d={d} stroke="#fff" strokeWidth={size / 2.2} />
      <path d={d} stroke="#c2410c" strokeWidth={size / 5} />
      {name && (
        <text
          x={x + size}
          y={y + 2.4 * size}
          fontSize={2.2 * size}
          fill="#c2410c"
          stroke="#fff"
          strokeWidth={size / 3}
          paintOrder="stroke"
        >
          {name}
        </text>
      )}
    </g>
  );
}

function Loupe({ photo, at, size, left }: { photo: Photo; at: Point; size: number; left: boolean }) {
  const span = size / LOUPE;
  const x = left ? 0 : photo.width - size;
  return (
    <g pointerEvents="none">
      <svg
        x={x}
        y={0}
        width={size}
        height={size}
        viewBox={`${at.x - span / 2} ${at.y - span / 2} ${span} ${span}`}
        aria-hidden="true"
      >
        <rect x={at.x - span} y={at.y - span} width={2 * span} height={2 * span} fill="#000" />
        <image href={photo.url} width={photo.width} height={photo.height} />
        <path
          d={`M${at.x - span} ${at.y}h${2 * span}M${at.x} ${at.y - span}v${2 * span}`}
          stroke="#c2410c"
          strokeWidth={span / 150}
        />
      </svg>
      <rect x={x} y={0} width={size} height={size} fill="none" stroke="#fff" strokeWidth={photo.width / 250} />
    </g>
  );
}
