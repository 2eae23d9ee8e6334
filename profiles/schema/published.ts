import { z } from "zod";
import { profileSchema } from ".";

/** The schema of all documents as JSON Schema, draft 2020-12, for tools outside. */
export function publishedSchema() {
  return {
    title: "Iteron profile: a car, a radio variant, a kit or a coding map",
    ...z.toJSONSchema(profileSchema, { io: "input" }),
  };
}
