import { isRouteErrorResponse, NavLink, Outlet, useMatches } from "react-router";
import { ErrorPage } from "~/app/components/error-page";
import { TopButtons } from "~/app/components/top";
import { Wordmark } from "~/app/components/wordmark";
import { onceInAJob } from "~/app/lib/once-in-a-job";
import { person, signedIn } from "~/app/server/session.server";
import type { Route } from "./+types/signed-in";

export const middleware: Route.MiddlewareFunction[] = [signedIn];

export function loader({ context }: Route.LoaderArgs) {
  const { name, role, shopName, currency } = person(context);
  return { name, role, shopName, currency };
}

export const shouldRevalidate = onceInAJob;

/** What a route may say of itself: it brings its own header. */
export interface Handle {
  ownHeader?: boolean;
}

export default function SignedIn({ loaderData }: Route.ComponentProps) {
  const ownHeader = useMatches().some((m) => (m.handle as Handle | undefined)?.ownHeader);
  return (
    <>
      <a
        href="#content"
        className="sr-only focus:not-sr-only focus:fixed focus:top-0 focus:z-30 focus:bg-raised focus:p-3"
      >
        Skip to the content
      </a>
      {!ownHeader && (
        <header className="border-b border-rule">
          <div className="mx-auto flex max-w-[88rem] items-center gap-x-2 px-4 sm:gap-x-6">
            <Wordmark />
            <nav aria-label="Main" className="flex">
              <Tab to="/board">Board</Tab>
              <Tab to="/library">Library</Tab>
            </nav>
            <div className="ml-auto flex items-center gap-1 text-sm">
              <span className="mr-2 hidden text-quiet md:inline">
                {loaderData.name}, {loaderData.role}, {loaderData.shopName}
              </span>
              <TopButtons />
            </div>
          </div>
        </header>
      )}
      <Outlet />
    </>
  );
}

function Tab({ to, children }: { to: string; children: string }) {
  return (
    <NavLink
      to={to}
      className={({ isActive }) =>
        `inline-flex min-h-11 items-center border-b-2 px-2 sm:px-3 ${isActive ? "border-ink font-medium" : "border-transparent text-quiet"}`
      }
    >
      {children}
    </NavLink>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  if (isRouteErrorResponse(error)) return <ErrorPage status={error.status} detail={error.data} />;
  return <ErrorPage status={500} detail={null} />;
}
