/** What speaks against answering a test, worked out once for all tests that want the car to stand the same way. */
import { stopOf } from "../job/decide";
import type { Stop } from "../job/guards/guard";
import { openFor, standIn } from "../job/guards/tried";
import type { Job } from "../job/job";
import { needModule } from "../job/power-now";
import type { Command } from "../log/entry";
import type { Test } from "../prove/tests";

/** @param now ISO 8601, UTC */
export function testStop(job: Job, test: Test, now: string): Stop | null {
  const open = openFor(job, test).map((c) => c.link);
  const way = JSON.stringify([standIn(test.situation), needModule(job.plan).has(test.id), open]);
  const command: Command = { kind: "prove.result", data: { test: test.id, answer: "pass", note: "" } };
  return job.once(`test ${way} ${now}`, () => stopped(job, command, now));
}

/** The same for a try of the baseline. */
export function baselineStop(job: Job, test: Test, now: string): Stop | null {
  const command: Command = { kind: "intake.baseline", data: { test: test.id, result: "pass", note: "" } };
  return job.once(`baseline ${JSON.stringify(standIn(test.situation))} ${now}`, () => stopped(job, command, now));
}

function stopped(job: Job, command: Command, at: string): Stop | null {
  return stopOf(job, { id: "", command, at }, { name: "", role: "technician" });
}
