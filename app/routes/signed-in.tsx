import { LogOut, SunMoon } from "lucide-react";
import { Form, isRouteErrorResponse, NavLink, Outlet } from "react-router";
import { Button } from "~/app/components/controls";
import { ErrorPage } from "~/app/components/error-page";
import { Wordmark } from "~/app/components/wordmark";
import { person, signedIn } from "~/app/server/session.server";
import type { Route } from "./+types/signed-in";

export const middleware: Route.MiddlewareFunction[] = [signedIn];

export function loader({ context }: Route.LoaderArgs) {
  const { name, role, shopName, currency } = person(context);
  return { name, role, shopName, currency };
}

export default function SignedIn({ loaderData }: Route.ComponentProps) {
  return (
    <>
      <a href="#content" className="sr-only focus:not-sr-only focus:absolute focus:z-10 focus:bg-raised focus:p-3">
        Skip to the content
      </a>
      <header className="border-b border-rule">
        <div className="mx-auto flex max-w-[88rem] items-center gap-x-2 px-4 sm:gap-x-6">
          <Wordmark />
          <nav aria-label="Main" className="flex">
            <Tab to="/board">Board</Tab>
            <Tab to="/library">Library</Tab>
          </nav>
          <div className="ml-auto flex items-center gap-1 text-sm">
            <span className="hidden text-quiet md:inline">
              {loaderData.name}, {loaderData.role}, {loaderData.shopName}
            </span>
            <LookSwitch />
            <Form method="post" action="/sign-out">
              <Button type="submit" look="quiet" aria-label="Sign out" className="px-2! sm:px-4!">
                <LogOut size={20} aria-hidden="true" className="sm:hidden" />
                <span className="hidden sm:inline">Sign out</span>
              </Button>
            </Form>
          </div>
        </div>
      </header>
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

/** Changes between bay light and cab dark and remembers it on this device. */
function LookSwitch() {
  return (
    <Button
      look="quiet"
      aria-label="Change between bay light and cab dark"
      className="px-2! no-underline sm:px-4!"
      onClick={() => {
        const root = document.documentElement;
        const dark = root.dataset.look
          ? root.dataset.look === "dark"
          : window.matchMedia("(prefers-color-scheme: dark)").matches;
        root.dataset.look = dark ? "light" : "dark";
        // biome-ignore lint/suspicious/noDocumentCookie: the Cookie Store API is missing in part of the browsers
        document.cookie = `iteron_look=${root.dataset.look}; path=/; max-age=31536000; samesite=lax`;
      }}
    >
      <SunMoon size={22} aria-hidden="true" />
    </Button>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  if (isRouteErrorResponse(error)) return <ErrorPage status={error.status} detail={error.data} />;
  return <ErrorPage status={500} detail={null} />;
}
