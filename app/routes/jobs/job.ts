import { jobOfRequest } from "~/app/server/jobs.server";
import type { Route } from "./+types/job";

/** Every page and resource of a job: one job object a request. */
export const middleware: Route.MiddlewareFunction[] = [jobOfRequest];
