import type { ShouldRevalidateFunctionArgs } from "react-router";
import { unlessStayed } from "./stays";

/** Who is signed in and how the page looks does not change by what is done in a job; without connection it cannot be asked. */
export function onceInAJob(args: ShouldRevalidateFunctionArgs): boolean {
  const { currentUrl, nextUrl, formAction } = args;
  const inJob = [currentUrl, nextUrl].every((url) => url.pathname.startsWith("/jobs/"));
  if (inJob && (formAction === undefined || formAction.endsWith("/log"))) return false;
  return unlessStayed(args);
}
