import { type ReactNode, useEffect, useRef } from "react";
import { NavLink, useLocation } from "react-router";
import { toMiddle } from "~/app/lib/to-middle";

/** The pages of a stage beside its bench; on a narrow screen the one shown is scrolled to the middle. */
export function SubPages({ pages }: { pages: { to: string; name: ReactNode }[] }) {
  const frame = useRef<HTMLElement>(null);
  const { pathname } = useLocation();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the page decides which one is current
  useEffect(() => toMiddle(frame.current, frame.current?.querySelector("[aria-current]")), [pathname]);
  return (
    <nav ref={frame} aria-label="Pages of this stage" className="scroll-x flex border-b border-rule px-3">
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
