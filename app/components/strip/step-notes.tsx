import { useParams } from "react-router";
import type { StripJournal } from "~/core/log/strip-journal";

type Note = Pick<StripJournal["notes"][number], "step" | "note" | "photo" | "differs" | "by" | "entry">;

/** What people wrote and photographed at a step; on the way back it is what one wants to see. */
export function StepNotes({ notes }: { notes: readonly Note[] }) {
  const { job } = useParams();
  return notes.map((n) => (
    <span key={n.entry} className="mt-1 block border-l-2 border-strong pl-2">
      {[n.note, differsWords(n)].filter(Boolean).join(" ")} <span className="text-sm text-quiet">{n.by}</span>
      {n.photo && (
        <a href={`/jobs/${job}/photos/${n.photo}`} target="_blank" rel="noreferrer" className="block">
          <img src={`/jobs/${job}/photos/${n.photo}`} alt={`Photo: ${n.note || n.step}`} className="mt-1 max-h-40" />
        </a>
      )}
    </span>
  ));
}

function differsWords({ differs }: Note): string {
  if (!differs) return "";
  const groups = (differs.fasteners ?? []).map((f) =>
    [f.count !== undefined && `${f.count} pieces`, f.lengthMm !== undefined && `${f.lengthMm} mm`]
      .filter(Boolean)
      .join(", "),
  );
  return [differs.tool && `Tool: ${differs.tool}.`, groups.length > 0 && `On the car: ${groups.join("; ")}.`]
    .filter(Boolean)
    .join(" ");
}
