import type { KnownFigure } from "~/core/job/cameras";
import { FIGURES } from "~/core/model/figures";
import { useAppend, useJob } from "../../entry-form";

/** Figures that a camera's answers hang on: as documents say, measured on this car, or still open. */
export function FigureFields({ figures }: { figures: readonly KnownFigure[] }) {
  return (
    <div className="flex flex-wrap gap-x-6 gap-y-3">
      {figures.map((f) => (
        <FigureField key={`${f.of}.${f.name}.${f.value}`} figure={f} />
      ))}
    </div>
  );
}

function FigureField({ figure: { of, name, value, from } }: { figure: KnownFigure }) {
  const { append } = useAppend();
  const { readOnly } = useJob();
  const { label, unit, min, max } = FIGURES[name];
  const keep = (text: string) => {
    const typed = text.trim() === "" ? null : Number(text.replace(",", "."));
    if (typed === value || Number.isNaN(typed)) return;
    append({ kind: "prove.figure", data: { of, figure: name, value: typed } });
  };
  return (
    <label className="block">
      <span className="block text-sm">
        {label}
        {unit && `, ${unit}`}
      </span>
      <input
        type="number"
        inputMode="decimal"
        className="field num w-36!"
        defaultValue={value ?? ""}
        min={min}
        max={max}
        step="any"
        disabled={readOnly}
        aria-invalid={value === null || undefined}
        onBlur={(e) => keep(e.currentTarget.value)}
        onKeyDown={(e) => e.key === "Enter" && keep(e.currentTarget.value)}
      />
      <span className={`block text-sm ${value === null ? "text-watch" : "text-quiet"}`}>
        {value === null ? "not known: measure it" : from === "measured" ? "measured here" : "from the document"}
      </span>
    </label>
  );
}
