import { publishedTranslationSchema } from "~/profiles/schema/published";

/** The published JSON Schema of translation files. */
export function loader() {
  return new Response(JSON.stringify(publishedTranslationSchema(), null, 2), {
    headers: { "Content-Type": "application/schema+json" },
  });
}
