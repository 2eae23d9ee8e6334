import { Check, ChevronLeft, ChevronRight, RotateCcw } from "lucide";
import { type ReactNode, type TouchEvent, useEffect, useRef } from "react";
import { Link } from "react-router";
import { Button, buttonLook } from "~/app/components/controls";
import { Icon } from "../icon";

/** One thing at a time for one clean hand: what to do, its picture, and large buttons under the thumb. */
export function HandsFrame({
  head,
  title,
  children,
  picture,
  then,
  undo,
  done,
  more,
  move,
  paused,
}: {
  head: ReactNode;
  title: string;
  children: ReactNode;
  picture?: ReactNode;
  /** What comes after. */
  then: ReactNode;
  /** Takes the tick before back; null when there is none to take back. */
  undo: { title: string; act(): void } | null;
  /** With an address it is done there. */
  done: { label: string; look: "next" | "plain"; disabled: boolean; act(): void; to?: string };
  /** A button beside Done. */
  more: ReactNode;
  move(by: number): void;
  /** A dialog is open and takes the keys. */
  paused: boolean;
}) {
  useKeys({ done: done.act, move, paused });
  return (
    <main id="content" className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] grid-rows-[minmax(0,1fr)_auto]">
      <div className="overflow-y-auto px-4 py-4 sm:px-8">
        <p className="flex flex-wrap items-baseline gap-x-3 text-lg text-quiet">{head}</p>
        <div className="mt-1 grid grid-cols-[minmax(0,1fr)] gap-x-10 lg:grid-cols-[minmax(0,1fr)_24rem]">
          <div>
            <h1 className="text-3xl! sm:text-4xl!">{title}</h1>
            {children}
          </div>
          {picture}
        </div>
      </div>
      <footer className="border-t border-rule bg-raised px-3 pt-2 pb-3 sm:px-8">
        <p className="mb-2 flex items-center gap-3 text-quiet">
          <span className="min-w-0 flex-1 truncate">{then}</span>
          {undo && <UndoButton undo={undo} />}
        </p>
        <div className="flex gap-2">
          <Button aria-label="Step before" className="min-h-20! px-2! sm:px-4!" onClick={() => move(-1)}>
            <Icon of={ChevronLeft} size={28} />
          </Button>
          {done.to ? (
            <Link to={done.to} className={`${buttonLook("next")} min-h-20! min-w-0 flex-1 px-2! text-xl sm:text-2xl`}>
              Open its page
            </Link>
          ) : (
            <Button
              look={done.look}
              className="min-h-20! min-w-0 flex-1 px-2! text-xl sm:text-2xl"
              disabled={done.disabled}
              onClick={done.act}
              aria-keyshortcuts="Space"
            >
              <Icon of={Check} size={32} /> {done.label}
            </Button>
          )}
          {more}
          <Button aria-label="Step after" className="min-h-20! px-2! sm:px-4!" onClick={() => move(1)}>
            <Icon of={ChevronRight} size={28} />
          </Button>
        </div>
      </footer>
    </main>
  );
}

export function UndoButton({ undo }: { undo: { title: string; act(): void } }) {
  return (
    <Button look="quiet" className="shrink-0 px-0!" aria-label={`Undo: ${undo.title}`} onClick={undo.act}>
      <Icon of={RotateCcw} size={18} /> Undo<span className="hidden sm:inline"> “{undo.title}”</span>
    </Button>
  );
}

/** Space ticks, the arrows look around, unless somebody types. */
function useKeys({ done, move, paused }: { done(): void; move(by: number): void; paused: boolean }) {
  const act = useRef({ done, move });
  act.current = { done, move };
  useEffect(() => {
    if (paused) return;
    const onKey = (e: KeyboardEvent) => {
      if (e.repeat || (e.target as HTMLElement).closest("input, textarea, select, button, a, summary")) return;
      if (e.key === " ") act.current.done();
      else if (e.key === "ArrowRight") act.current.move(1);
      else if (e.key === "ArrowLeft") act.current.move(-1);
      else return;
      e.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [paused]);
}

const SWIPE_PX = 60;

/** A swipe to the left shows the next thing, to the right the one before. */
export function useSwipe(move: (by: number) => void) {
  const from = useRef<{ x: number; y: number } | null>(null);
  return {
    onTouchStart: (e: TouchEvent) => {
      const t = e.changedTouches[0];
      from.current = t ? { x: t.clientX, y: t.clientY } : null;
    },
    onTouchEnd: (e: TouchEvent) => {
      const t = e.changedTouches[0];
      if (!t || !from.current) return;
      const dx = t.clientX - from.current.x;
      if (Math.abs(dx) > SWIPE_PX && Math.abs(dx) > 2 * Math.abs(t.clientY - from.current.y)) move(dx < 0 ? 1 : -1);
    },
  };
}
