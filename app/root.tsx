import "@fontsource/ibm-plex-sans/latin-400.css";
import "@fontsource/ibm-plex-sans/latin-500.css";
import "@fontsource/ibm-plex-sans/latin-600.css";
import "@fontsource/ibm-plex-mono/latin-400.css";
import "@fontsource/ibm-plex-mono/latin-500.css";
import "./app.css";
import { type ReactNode, useContext } from "react";
import {
  isRouteErrorResponse,
  Links,
  Meta,
  Outlet,
  Scripts,
  ScrollRestoration,
  useRouteLoaderData,
} from "react-router";
import { Toaster } from "sonner";
import type { Route } from "./+types/root";
import { ErrorPage } from "./components/error-page";
import { NonceContext } from "./lib/nonce";
import { onceInAJob } from "./lib/once-in-a-job";
import { sameOrigin } from "./server/session.server";

export const middleware: Route.MiddlewareFunction[] = [sameOrigin];

export function loader({ request }: Route.LoaderArgs) {
  const look = /(?:^|;\s*)iteron_look=(light|dark)/.exec(request.headers.get("cookie") ?? "")?.[1] ?? null;
  return { look };
}

export const shouldRevalidate = onceInAJob;

export const meta: Route.MetaFunction = () => [{ title: "Iteron" }];

export const links: Route.LinksFunction = () => [{ rel: "icon", type: "image/svg+xml", href: "/icon.svg" }];

/**
 * Before any schema is made: Zod is not to try whether it may compile one, which the policy of the pages forbids and the
 * browser would report each time.
 */
const WITHOUT_EVAL = "globalThis.__zod_globalConfig={jitless:true}";

export function Layout({ children }: { children: ReactNode }) {
  const nonce = useContext(NonceContext);
  const root = useRouteLoaderData<typeof loader>("root");
  return (
    <html lang="en" data-look={root?.look ?? undefined} suppressHydrationWarning>
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <script nonce={nonce} suppressHydrationWarning>
          {WITHOUT_EVAL}
        </script>
        <Meta />
        <Links />
      </head>
      <body>
        {children}
        <Toaster position="bottom-right" richColors={false} closeButton />
        <ScrollRestoration nonce={nonce} />
        <Scripts nonce={nonce} />
      </body>
    </html>
  );
}

export default function App() {
  return <Outlet />;
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  if (isRouteErrorResponse(error)) return <ErrorPage status={error.status} detail={error.data} />;
  return <ErrorPage status={500} detail={null} />;
}
