import type { ShouldRevalidateFunctionArgs } from "react-router";

/** Who is signed in and how the page looks does not change by what is done in a job; without connection it cannot be asked. */
export function onceInAJob({
  currentUrl,
  nextUrl,
  formAction,
  defaultShouldRevalidate,
}: ShouldRevalidateFunctionArgs): boolean {
  const inJob = [currentUrl, nextUrl].every((url) => url.pathname.startsWith("/jobs/"));
  if (inJob && (formAction === undefined || formAction.endsWith("/log"))) return false;
  return defaultShouldRevalidate;
}
