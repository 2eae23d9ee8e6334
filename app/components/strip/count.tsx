import { Minus, Plus } from "lucide";
import type { Fastener } from "~/core/model/profile";
import { Button } from "../controls";
import { Icon } from "../icon";
import { Screw, TrayLetter } from "./step-facts";

/** Counts one group of fasteners out or in; until somebody counts it says what the plan expects. */
export function Count({
  fastener: f,
  expected,
  value,
  direction,
  onChange,
}: {
  fastener: Fastener;
  expected: number;
  value: number | undefined;
  direction: "in" | "out";
  onChange(count: number): void;
}) {
  const shown = value ?? expected;
  const name = `${f.kind}${f.lengthMm ? ` ${f.lengthMm} mm` : ""}, tray ${f.tray}`;
  return (
    <fieldset className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-rule py-2">
      <legend className="sr-only">{name}</legend>
      <span className="min-w-0 basis-full leading-tight sm:flex-1 sm:basis-56">
        <span className="num font-medium">{f.kind}</span>{" "}
        {f.lengthMm !== undefined && (
          <>
            <Screw lengthMm={f.lengthMm} /> <span className="num">{f.lengthMm} mm</span>{" "}
          </>
        )}
        {direction === "out" ? "into" : "from"} <TrayLetter tray={f.tray} />
        {f.place && <span className="block text-base text-quiet">{f.place}</span>}
      </span>
      <span className="flex items-center">
        <Button
          aria-label={`One less: ${name}`}
          className="size-14 px-0!"
          disabled={shown === 0}
          onClick={() => onChange(shown - 1)}
        >
          <Icon of={Minus} size={24} />
        </Button>
        <span
          aria-live="polite"
          className={`num w-20 text-center text-3xl ${value === undefined ? "text-quiet" : "font-medium"}`}
        >
          {shown}
          <span className="block text-sm leading-none">{value === undefined ? "not counted" : "counted"}</span>
        </span>
        <Button aria-label={`One more: ${name}`} className="size-14 px-0!" onClick={() => onChange(shown + 1)}>
          <Icon of={Plus} size={24} />
        </Button>
        <Button
          aria-label={`All ${expected} there: ${name}`}
          aria-pressed={value === expected}
          className="ml-2 min-h-14!"
          onClick={() => onChange(expected)}
        >
          All {expected}
        </Button>
      </span>
    </fieldset>
  );
}
