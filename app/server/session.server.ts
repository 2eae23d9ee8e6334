import {
  createContext,
  createCookie,
  data,
  type MiddlewareFunction,
  type RouterContextProvider,
  redirect,
} from "react-router";
import { type Account, accountOf, type Role } from "~/db/accounts";
import { database, demoMode } from "./db.server";

const COOKIE_HOURS = 14;
const cookie = createCookie("iteron_session", {
  path: "/",
  httpOnly: true,
  sameSite: "lax",
  maxAge: COOKIE_HOURS * 3600,
});

const accountContext = createContext<Account | null>(null);

/** The signed-in person of a request behind the `signedIn` middleware. */
export function person(context: Readonly<RouterContextProvider>): Account {
  const account = context.get(accountContext);
  if (!account) throw data("Sign in first.", { status: 401 });
  return account;
}

/** Refuses with 403 unless the person has one of the roles. */
export function requireRole(account: Account, roles: readonly Role[]): void {
  if (roles.includes(account.role)) return;
  throw data(
    `This needs the role ${roles.join(" or ")}; you are signed in as ${account.role}. Ask the lead of ${account.shopName}.`,
    { status: 403 },
  );
}

/** Who may write on jobs. */
export const WRITERS: readonly Role[] = ["technician", "lead", "counter"];

/** Every route of the shop: only with a session, and changes only from roles that may write. */
export const signedIn: MiddlewareFunction<Response> = async ({ request, context }, next) => {
  const token = await sessionToken(request);
  const account = token ? await accountOf(database(), token, demoMode()) : null;
  if (!account) {
    if (request.method !== "GET")
      throw data("Your session has ended. Sign in again; nothing was changed.", { status: 401 });
    const { pathname, search } = new URL(request.url);
    throw redirect(`/sign-in?to=${encodeURIComponent(pathname.replace(/\.data$/, "") + search)}`);
  }
  if (request.method !== "GET") requireRole(account, WRITERS);
  context.set(accountContext, account);
  return next();
};

/** Changes only from our own pages: the Origin header must name this host. */
export const sameOrigin: MiddlewareFunction<Response> = async ({ request }, next) => {
  if (request.method !== "GET" && request.method !== "HEAD") {
    const origin = request.headers.get("origin");
    const host = request.headers.get("x-forwarded-host") ?? request.headers.get("host");
    if (!origin || !URL.canParse(origin) || new URL(origin).host !== host)
      throw data("This request did not come from Iteron's own pages and was refused.", { status: 403 });
  }
  return next();
};

export async function sessionToken(request: Request): Promise<string | null> {
  const value: unknown = await cookie.parse(request.headers.get("cookie"));
  return typeof value === "string" && value.length >= 20 ? value : null;
}

/** The cookie of a new session; it travels over TLS only, but for a server on this machine. */
export function sessionCookie(request: Request, token: string): Promise<string> {
  return cookie.serialize(token, { secure: !isLoopback(request) });
}

export function endedCookie(request: Request): Promise<string> {
  return cookie.serialize("", { secure: !isLoopback(request), maxAge: 0 });
}

/** Where a request comes from, as the front of the server has written it; what a client writes there is thrown away. */
export function callerAddress(request: Request): string {
  return request.headers.get("x-iteron-caller") ?? "";
}

function isLoopback(request: Request): boolean {
  const { hostname } = new URL(request.url);
  return hostname === "localhost" || hostname === "[::1]" || hostname.startsWith("127.");
}
