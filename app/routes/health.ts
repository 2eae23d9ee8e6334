/** Answers while the server runs; says nothing about the database. */
export function loader() {
  return new Response("ok", { headers: { "Content-Type": "text/plain" } });
}
