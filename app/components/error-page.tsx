import { Link, useRevalidator } from "react-router";
import { Wordmark } from "./wordmark";

const TITLES: Readonly<Record<number, string>> = {
  400: "That request was not complete",
  401: "Please sign in",
  403: "Not allowed for this sign-in",
  404: "Nothing here",
  409: "Somebody was faster",
  413: "The file is too large",
  422: "That does not go together",
  503: "The database does not answer",
  507: "The disk is nearly full",
};

/** A full page for a refusal or a failure: what is wrong, and the way on. */
export function ErrorPage({ status, detail }: { status: number; detail: unknown }) {
  return (
    <main className="mx-auto max-w-2xl px-4 py-16">
      <Wordmark />
      <p className="num mt-12 text-quiet">{status}</p>
      <h1 className="mt-1">{TITLES[status] ?? "Something went wrong on our side"}</h1>
      <p className="mt-3">{messageOf(status, detail)}</p>
      <div className="mt-8 flex flex-wrap gap-3">
        {status >= 500 && <Retry />}
        {status === 401 ? (
          <Link className="inline-flex min-h-11 items-center border border-strong px-4" to="/sign-in">
            Sign in
          </Link>
        ) : (
          <Link className="inline-flex min-h-11 items-center border border-strong px-4" to="/board">
            To the board
          </Link>
        )}
      </div>
    </main>
  );
}

function Retry() {
  const revalidator = useRevalidator();
  return (
    <button
      type="button"
      className="min-h-11 bg-accent px-5 font-medium text-on-accent"
      onClick={() => (revalidator.state === "idle" ? window.location.reload() : undefined)}
    >
      Try again
    </button>
  );
}

function messageOf(status: number, detail: unknown): string {
  if (typeof detail === "string" && detail) return detail;
  if (detail && typeof detail === "object" && "message" in detail && typeof detail.message === "string")
    return detail.message;
  if (status === 404) return "The address is wrong, or what was here is gone.";
  return "It was written to the log. Nothing you entered before is lost. Try again; if it stays, tell the lead of your shop what you did.";
}
