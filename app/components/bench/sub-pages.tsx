import type { ReactNode } from "react";
import { NavLink } from "react-router";

/** The pages of a stage beside its bench. */
export function SubPages({ pages }: { pages: { to: string; name: ReactNode }[] }) {
  return (
    <nav aria-label="Pages of this stage" className="scroll-x flex border-b border-rule px-3">
      {pages.map((p) => (
        <NavLink
          key={p.to}
          to={p.to}
          relative="path"
          end
          className={({ isActive }) =>
            `inline-flex min-h-11 items-center gap-2 whitespace-nowrap border-b-2 px-3 text-[0.93rem] ${isActive ? "border-ink font-medium" : "border-transparent text-quiet"}`
          }
        >
          {p.name}
        </NavLink>
      ))}
    </nav>
  );
}
