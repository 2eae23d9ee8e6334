import { publishedSchema } from "~/profiles/schema/published";

/** The published JSON Schema of the documents. */
export function loader() {
  return new Response(JSON.stringify(publishedSchema(), null, 2), {
    headers: { "Content-Type": "application/schema+json" },
  });
}
