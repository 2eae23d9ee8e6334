import type { z } from "zod";
import { jsonDepth } from "../core/library/json-depth";
import { renamedFields } from "../core/library/renamed-fields";
import { type Leaflet, leafletSchema } from "./archetypes";
import { checkSense, ProfileError } from "./checks";
import { type JobFile, jobFileSchema } from "./job";
import { type Profile, profileSchema } from "./schema";
import { upgradeDocument } from "./upgrade";

export { ProfileError };

/**
 * Reads a profile from JSON text: syntax, schema, and whether the model can evaluate what it alone describes.
 *
 * @throws {ProfileError} naming the place, such as `parts[3] (Radio) › ports[0] › contacts[2] › kind`
 */
export function readProfile(json: string): Profile {
  return checkProfile(parseJson(json, "Export a profile from the library and compare."));
}

/**
 * Reads an exported job.
 *
 * @throws {ProfileError} naming the place and what to do
 */
export function readJobFile(json: string): JobFile {
  const value = parseJson(json, "Export a job in Hand over and compare.");
  const result = jobFileSchema.safeParse(withPresentDocuments(value));
  if (!result.success) throw refusal(result.error.issues, value);
  return result.data;
}

/** The documents of a job file in their present form, each by itself or in a list. */
function withPresentDocuments(file: unknown): unknown {
  const documents = (file as { documents?: unknown } | null)?.documents;
  if (typeof documents !== "object" || documents === null) return file;
  const present = Object.entries(documents).map(([name, d]) => [
    name,
    Array.isArray(d) ? d.map(upgradeDocument) : upgradeDocument(d),
  ]);
  return { ...(file as object), documents: Object.fromEntries(present) };
}

/** Deeper than any document goes; what looks at it goes down with it. */
const MAX_DEPTH = 60;

function parseJson(json: string, remedy: string): unknown {
  if (jsonDepth(json) > MAX_DEPTH)
    throw new ProfileError("file", `it is nested more than ${MAX_DEPTH} deep; no document of Iteron is.`, remedy);
  try {
    return JSON.parse(json);
  } catch (error) {
    throw new ProfileError("file", `it is not JSON: ${(error as Error).message}.`, remedy);
  }
}

/** Checks a value as a profile. @throws {ProfileError} */
export function checkProfile(given: unknown): Profile {
  const value = upgradeDocument(given);
  const result = profileSchema.safeParse(value);
  if (!result.success) throw refusal(result.error.issues, value);
  checkSense(result.data);
  return result.data;
}

/** Reads a leaflet from JSON text. @throws {ProfileError} */
export function readLeaflet(json: string): Leaflet {
  return checkLeaflet(parseJson(json, "Load the form again."));
}

/** Checks a value as a leaflet. @throws {ProfileError} naming the field */
export function checkLeaflet(value: unknown): Leaflet {
  const name = typeof value === "object" && value !== null ? (value as { archetype?: unknown }).archetype : undefined;
  const schema = leafletSchema(String(name));
  if (!schema)
    throw new ProfileError("archetype", `there is no archetype “${String(name)}”.`, "Choose a starting point again.");
  const present = renamedFields(value);
  const result = schema.safeParse(present);
  if (!result.success) throw refusal(result.error.issues, present);
  return result.data;
}

function refusal(issues: readonly z.core.$ZodIssue[], value: unknown): ProfileError {
  const first = issues[0];
  const more = issues.length > 1 ? ` (and ${issues.length - 1} more)` : "";
  return new ProfileError(
    placeWords(first?.path ?? [], value),
    `${(first?.message ?? "it does not fit the schema").replace(/\.$/, "")}${more}.`,
    "Correct the place; nothing was stored.",
    issues.map((i) => ({ path: i.path.join("."), say: i.message })),
  );
}

/** The path to a value in words, with the name or identifier of each list member. */
function placeWords(path: readonly PropertyKey[], value: unknown): string {
  if (path.length === 0) return "document";
  const words: string[] = [];
  let at: unknown = value;
  for (const step of path) {
    at = typeof at === "object" && at !== null ? (at as Record<PropertyKey, unknown>)[step] : undefined;
    if (typeof step === "number") {
      const name =
        at && typeof at === "object"
          ? ((at as { name?: unknown; id?: unknown }).name ?? (at as { id?: unknown }).id)
          : undefined;
      words[words.length - 1] += `[${step}]${typeof name === "string" ? ` (${name})` : ""}`;
    } else words.push(String(step));
  }
  return words.join(" › ");
}
