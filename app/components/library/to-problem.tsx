import { CircleAlert } from "lucide";
import type { FieldProblem } from "~/profiles/checks";
import { Button } from "../controls";
import { Icon } from "../icon";

/** How many answers are wrong, and the way to the first. */
export function ToProblem({ problems }: { problems: readonly FieldProblem[] }) {
  const [first] = problems;
  if (!first) return null;
  return (
    <Button look="quiet" onClick={() => fieldAt(first.path)?.focus()}>
      <Icon of={CircleAlert} size={18} className="shrink-0 text-stop" />
      {problems.length === 1 ? "1 answer to correct" : `${problems.length} answers to correct`}
    </Button>
  );
}

/** The field of a path, or of the nearest that holds it. */
function fieldAt(path: string): HTMLElement | null {
  const steps = path.split(".");
  for (let n = steps.length; n > 0; n--) {
    const start = steps.slice(0, n).join(".");
    const found = document.querySelector<HTMLElement>(`[data-path="${start}"], [data-path^="${start}."]`);
    if (found) return found;
  }
  return null;
}
