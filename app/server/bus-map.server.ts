import { format } from "date-fns";
import { type BusMap, emptyBusMap, withFound } from "~/core/bus/bus-map";
import type { FoundSignal } from "~/core/bus/hunt/found";
import type { Job } from "~/core/job/job";
import type { Account } from "~/db/accounts";
import { newestDocuments } from "~/db/profiles";
import { database } from "./db.server";

/** The newest bus maps of the library for the car of a job. */
export async function busMapsFor({ shopId }: Account, { opened }: Job): Promise<BusMap[]> {
  const all = await newestDocuments(database(), shopId, "busMap");
  return all.flatMap((m) => (m.document === "busMap" && m.car === opened.car.id ? [m] : []));
}

/** Where a signal of a job is known from, in words. */
export function originWords({ state }: Pick<Job, "state">, { file, thing }: FoundSignal): string {
  if (file === "") return "Bus map of the library";
  const name = state.files.find((f) => f.file === file)?.name ?? "a file";
  return thing === "" ? `Bus description ${name}` : `Cues for ${thing}, ${name}`;
}

/** The car's map of the library, or a new one, with what the job has found. */
export async function mapWithJob(account: Account, job: Job, number: number): Promise<BusMap> {
  const { state, opened } = job;
  const [map] = await busMapsFor(account, job);
  const told = (s: FoundSignal) => {
    if (s.file === "") return null;
    const { at } = state.signals.find((k) => k.signal === s.signal) ?? { at: "" };
    return `Job ${number}, ${format(new Date(at), "d MMM yyyy")}: ${originWords(job, s)}`;
  };
  return withFound(map ?? emptyBusMap(opened.car), state.signals, told);
}
