import { isRouteErrorResponse, type ShouldRevalidateFunctionArgs } from "react-router";
import { toast } from "sonner";

/** What a form is answered when the server could not take it now: it stays as it is. */
interface Stayed {
  stays: true;
}

const SAYS: Readonly<Record<number, string>> = {
  401: "Your session has ended. What you typed stays here: sign in in another tab, then press again.",
  503: "The database does not answer. What you typed stays here; press again in a moment.",
  507: "The disk of the server is full. What you typed stays here.",
};

/** Asks the server; where it is only away for now the page and its words stay, and it is said. */
export async function askedOrStays<T>(server: () => Promise<T>): Promise<T | Stayed> {
  try {
    return await server();
  } catch (error) {
    const status = isRouteErrorResponse(error) ? error.status : error instanceof TypeError ? 0 : null;
    const says = status === 0 ? "There is no connection. What you typed stays here; press again." : SAYS[status ?? -1];
    if (!says) throw error;
    // One that is tried again and again is said once.
    toast.error(says, { id: says, duration: 20_000 });
    return { stays: true };
  }
}

const isStayed = (result: unknown): result is Stayed =>
  typeof result === "object" && result !== null && "stays" in result;

/** Nothing is asked of a server that has just not answered: the page would be replaced. */
export function unlessStayed({ actionResult, defaultShouldRevalidate }: ShouldRevalidateFunctionArgs): boolean {
  return !isStayed(actionResult) && defaultShouldRevalidate;
}

/** The answer of the server to a form, or null where there was none or the form stays. */
export function answered<T>(result: T | Stayed | undefined): T | undefined {
  return isStayed(result) ? undefined : result;
}
