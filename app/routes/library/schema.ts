import { z } from "zod";
import { profileSchema } from "~/profiles/schema";

/** The published JSON Schema of the documents. */
export function loader() {
  const schema = {
    title: "Iteron profile: a car, a radio variant or a kit",
    ...z.toJSONSchema(profileSchema, { io: "input" }),
  };
  return new Response(JSON.stringify(schema, null, 2), { headers: { "Content-Type": "application/schema+json" } });
}
