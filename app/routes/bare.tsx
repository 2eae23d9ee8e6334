import { data } from "react-router";
import type { Route } from "./+types/bare";

/**
 * A page with nothing but the frame around it and a number of bytes: what the benchmark of pages is held against. It is
 * there only while the server runs for a benchmark.
 */
export function loader({ params }: Route.LoaderArgs) {
  if (process.env.ITERON_BENCH !== "1") throw data("There is no such page.", { status: 404 });
  const bytes = Math.min(2_000_000, Math.max(0, Number(params.bytes) || 0));
  // Pages carry their data twice: as markup and for the script.
  return { text: "Lorem ipsum dolor sit amet. ".repeat(Math.ceil(bytes / 56)) };
}

export default function Bare({ loaderData }: Route.ComponentProps) {
  return <main id="content">{loaderData.text}</main>;
}
