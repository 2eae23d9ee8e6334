import { z } from "zod";
import { profileSchema } from ".";
import { translationFileSchema } from "./translation";

/** The schema of all documents as JSON Schema, draft 2020-12, for tools outside. */
export function publishedSchema() {
  return {
    title: "Iteron profile: a car, a radio variant, a kit, a coding map or a bus map",
    ...z.toJSONSchema(profileSchema, { io: "input" }),
  };
}

/** The schema of a translation file, for makers of modules. */
export function publishedTranslationSchema() {
  return {
    title: "Iteron translation: from messages of the car to what a module does",
    ...z.toJSONSchema(translationFileSchema, { io: "input" }),
  };
}
