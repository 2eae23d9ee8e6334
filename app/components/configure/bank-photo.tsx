import { Camera, Undo2 } from "lucide";
import { useEffect, useState } from "react";
import { readBank } from "~/core/configure/bank-photo";
import type { Corners, Point } from "~/core/geometry/unit-square";
import type { SwitchBank } from "~/core/model/profile";
import { Button } from "../controls";
import { pointOf } from "../drawings/pressed";
import { Icon } from "../icon";

const CORNERS = ["upper left, at switch 1", "upper right", "lower right", "lower left"];

/** Positions from a photo: its four corners are tapped, then every lever; which edge is ON is said by the person. */
export function BankPhoto({ bank, onRead }: { bank: SwitchBank; onRead(values: Record<string, string>): void }) {
  const [photo, setPhoto] = useState<{ url: string; width: number; height: number } | null>(null);
  const [taps, setTaps] = useState<Point[]>([]);
  const [onSide, setOnSide] = useState<"upper" | "lower">("upper");
  const url = photo?.url;
  useEffect(() => () => (url ? URL.revokeObjectURL(url) : undefined), [url]);
  const count = bank.switches.length;
  const corners = taps.length >= 4 ? (taps.slice(0, 4) as unknown as Corners) : null;
  const read = corners && readBank(corners, taps.slice(4), count);
  const complete = read !== null && read.missing.length === 0 && read.problems.length === 0;
  const say = !corners
    ? `Tap the corner of the row of switches: ${CORNERS[taps.length]}.`
    : read && read.missing.length > 0
      ? `Tap the lever of switch ${read.missing[0]}, on the side where it stands.`
      : "Every lever is read.";
  return (
    <details className="mt-3">
      <summary className="min-h-11 cursor-pointer py-2.5">Read it from a photo</summary>
      <label className="inline-flex min-h-11 cursor-pointer items-center gap-2 border border-strong px-4">
        <Icon of={Camera} size={18} /> {photo ? "Another photo" : "Take or choose a photo"}
        <input
          type="file"
          accept="image/*"
          capture="environment"
          className="sr-only"
          onChange={async (e) => {
            const file = e.currentTarget.files?.[0];
            if (!file) return;
            const { width, height } = await createImageBitmap(file);
            setPhoto({ url: URL.createObjectURL(file), width, height });
            setTaps([]);
          }}
        />
      </label>
      {photo && (
        <>
          <p className="mt-3 text-lg" role="status">
            {say}
          </p>
          <svg
            viewBox={`0 0 ${photo.width} ${photo.height}`}
            className="mt-2 max-h-[70vh] w-full touch-manipulation border border-rule"
            role="img"
            aria-label="Photo of the switch bank, to be tapped"
            onPointerUp={(e) => setTaps([...taps, pointOf(e)])}
          >
            <image href={photo.url} width={photo.width} height={photo.height} />
            {corners && (
              <polygon
                points={corners.map((c) => `${c.x},${c.y}`).join(" ")}
                fill="none"
                stroke="var(--accent)"
                strokeWidth={photo.width / 250}
              />
            )}
            {taps.map((t, i) => (
              <circle
                // biome-ignore lint/suspicious/noArrayIndexKey: the order of the taps is their identity
                key={i}
                cx={t.x}
                cy={t.y}
                r={photo.width / 90}
                fill={i < 4 ? "none" : "var(--accent)"}
                stroke={i < 4 ? "var(--accent)" : "var(--paper)"}
                strokeWidth={photo.width / 300}
              />
            ))}
          </svg>
          {read?.problems.map((p) => (
            <p key={p} className="mt-1 text-stop">
              {p}
            </p>
          ))}
          <fieldset className="mt-3 flex flex-wrap items-center gap-4">
            <legend className="text-sm text-quiet">ON is printed at</legend>
            {(["upper", "lower"] as const).map((side) => (
              <label key={side} className="inline-flex min-h-11 items-center gap-2">
                <input
                  type="radio"
                  name="on-side"
                  className="size-5 accent-[var(--ink)]"
                  checked={onSide === side}
                  onChange={() => setOnSide(side)}
                />
                the {side} edge
              </label>
            ))}
          </fieldset>
          <div className="mt-2 flex flex-wrap gap-2">
            <Button
              disabled={!complete}
              onClick={() =>
                onRead(
                  Object.fromEntries(
                    (read?.levers ?? []).map((l) => [
                      `${bank.part}.${bank.switches[l.number - 1]}`,
                      l.side === onSide ? bank.on : bank.off,
                    ]),
                  ),
                )
              }
            >
              Take these positions over
            </Button>
            <Button look="quiet" disabled={taps.length === 0} onClick={() => setTaps(taps.slice(0, -1))}>
              <Icon of={Undo2} size={16} /> Last tap back
            </Button>
          </div>
        </>
      )}
    </details>
  );
}
