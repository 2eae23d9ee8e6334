import { useEffect, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { later } from "~/app/lib/later";
import { STAGES, type Stage } from "~/core/log/stages";
import { STAGE_NAMES } from "../job/stage-line";

/** Loaded when somebody asks for the keys. */
const KeysDialog = later(async () => (await import("./keys-dialog")).KeysDialog, null);

const GO: Readonly<Record<Stage, string>> = {
  intake: "i",
  fit: "f",
  strip: "s",
  connect: "c",
  configure: "o",
  bus: "b",
  prove: "p",
  handover: "h",
};

/**
 * The keys of a surface. What a key does stands at its button (`aria-keyshortcuts`): pressing it presses the button, and
 * `?` lists the buttons that have one.
 */
export function Keys({ move }: { move(by: number): void }) {
  const navigate = useNavigate();
  const { job } = useParams();
  const [shown, setShown] = useState<[string, string][] | null>(null);
  const go = useRef(false);
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || e.altKey || isTyping(e)) return;
      const stage = go.current ? STAGES.find((s) => GO[s] === e.key) : undefined;
      go.current = e.key === "g";
      if (stage) navigate(`/jobs/${job}/${stage}`);
      else if (e.key === "j" || e.key === "ArrowDown") move(1);
      else if (e.key === "k" || e.key === "ArrowUp") move(-1);
      else if (e.key === "?") setShown(keysHere());
      else if (!press(e)) return;
      e.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [move, navigate, job]);
  return shown && <KeysDialog keys={shown} onClose={() => setShown(null)} />;
}

/** Typing, or a control that uses the key itself. */
function isTyping(e: KeyboardEvent): boolean {
  const at = e.target as HTMLElement;
  if (at.closest("[role=dialog]")) return true;
  // A box to tick takes the space bar, a choice the arrows as well; letters are free.
  const box = at.closest<HTMLInputElement>("input[type=checkbox], input[type=radio]");
  if (box) return e.key === " " || (box.type === "radio" && e.key.startsWith("Arrow"));
  if (at.closest("input, textarea, select, [contenteditable]")) return true;
  return e.key === " " && at.closest("button, a, summary") !== null;
}

function press(e: KeyboardEvent): boolean {
  const wanted = e.key === " " ? "Space" : e.key;
  const button = document.querySelector<HTMLElement>(`[aria-keyshortcuts="${CSS.escape(wanted)}"]`);
  if (!button || e.repeat) return false;
  button.click();
  return true;
}

function keysHere(): [string, string][] {
  const buttons = [...document.querySelectorAll<HTMLElement>("[aria-keyshortcuts]")].map((b): [string, string] => [
    b.getAttribute("aria-keyshortcuts") ?? "",
    b.getAttribute("aria-label") ?? b.textContent ?? "",
  ]);
  return [
    ...buttons,
    ["j, ↓", "The one after"],
    ["k, ↑", "The one before"],
    ...STAGES.map((s): [string, string] => [`g ${GO[s]}`, STAGE_NAMES[s]]),
    ["?", "These keys"],
  ];
}
