import { useCallback, useEffect, useRef, useState } from "react";
import { useLocation, useNavigate } from "react-router";
import type { BenchItem } from "./bench";

/**
 * Which thing of a surface is in hand: the one that was picked, until it is done; else the one that the next action is
 * about, else the first that is open. The address names the picked one, so that reloading keeps it.
 */
export function useSelection<T extends BenchItem>(items: readonly T[], next: string | undefined) {
  const { search, key, hash } = useLocation();
  const navigate = useNavigate();
  const [picked, setPicked] = useState(() => new URLSearchParams(search).get("at"));
  const pane = useRef<HTMLElement>(null);

  // Following a link to the surface takes in hand what the link names.
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each navigation
  useEffect(() => {
    setPicked(new URLSearchParams(search).get("at"));
    if (hash === "#do") pane.current?.focus({ preventScroll: true });
  }, [key]);

  const found = items.findIndex((i) => i.id === picked);
  const index = found >= 0 ? found : start(items, next);
  const item = items[index];

  const select = useCallback((id: string | null) => {
    setPicked(id);
    const url = new URL(window.location.href);
    if (id === null) url.searchParams.delete("at");
    else url.searchParams.set("at", id);
    url.hash = "";
    window.history.replaceState(window.history.state, "", url);
  }, []);

  const stays = item?.stays ? item.id : null;
  useEffect(() => {
    if (stays !== null) setPicked(stays);
  }, [stays]);

  // What was picked and is now done makes room for what comes next.
  const before = useRef({ id: item?.id, state: item?.state, key });
  useEffect(() => {
    const was = before.current;
    before.current = { id: item?.id, state: item?.state, key };
    if (
      item &&
      !item.stays &&
      was.id === item.id &&
      was.state !== "done" &&
      item.state === "done" &&
      picked === item.id
    )
      select(null);
    // The button that was pressed may be gone: the keyboard goes on from what is in hand.
    else if (was.id !== item?.id && document.activeElement === document.body)
      pane.current?.focus({ preventScroll: true });
    // On a phone the list is below what is in hand: what was picked there comes into view.
    const asked = item?.id === picked || was.key !== key;
    if (was.id !== item?.id && asked && (pane.current?.getBoundingClientRect().top ?? 0) < 0)
      pane.current?.scrollIntoView({ block: "start" });
  });

  const move = useCallback(
    (by: number) => {
      const to = items[Math.min(items.length - 1, Math.max(0, index + by))];
      if (to?.to) navigate(to.to, { preventScrollReset: true });
      else if (to) select(to.id);
    },
    [items, index, select, navigate],
  );
  return { item, index, select, move, pane };
}

function start(items: readonly BenchItem[], next: string | undefined): number {
  const named = items.findIndex((i) => i.id === next);
  if (named >= 0) return named;
  const open = items.findIndex((i) => i.state === "wrong");
  if (open >= 0) return open;
  const first = items.findIndex((i) => i.state === "open" || i.state === "watch");
  return Math.max(first, 0);
}
