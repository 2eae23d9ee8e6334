import type { KeyboardEvent, SVGProps } from "react";

/**
 * A shape that is pressed like a button, by finger and by key.
 *
 * @param pressed of one that stays pressed
 */
export function tappable(label: string, onTap: () => void, pressed?: boolean): SVGProps<SVGGElement> {
  return {
    role: "button",
    tabIndex: 0,
    "aria-label": label,
    "aria-pressed": pressed,
    className: "cursor-pointer",
    onClick: onTap,
    onKeyDown: (e: KeyboardEvent) => {
      if (e.key !== "Enter" && e.key !== " ") return;
      e.preventDefault();
      onTap();
    },
  };
}
