import { ChevronRight } from "lucide";
import { type ButtonHTMLAttributes, type ReactNode, useId } from "react";
import { Icon } from "./icon";

type Look = "next" | "plain" | "quiet";

const LOOKS: Record<Look, string> = {
  next: "bg-accent text-on-accent border-accent font-medium",
  plain: "bg-raised text-ink border-strong",
  quiet: "bg-transparent text-ink border-transparent underline underline-offset-4 decoration-strong",
};

/** A button for a gloved thumb. `next` is for the single next action of a screen. */
export function Button({
  look = "plain",
  className = "",
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look }) {
  return (
    <button
      type="button"
      {...rest}
      className={`inline-flex min-h-11 items-center justify-center gap-2 rounded-[3px] border px-4 py-1.5 disabled:cursor-not-allowed disabled:opacity-60 ${LOOKS[look]} ${className}`}
    />
  );
}

/** The same shape for a link. */
export function buttonLook(look: Look = "plain"): string {
  return `inline-flex min-h-11 items-center justify-center gap-2 rounded-[3px] border px-4 py-1.5 ${LOOKS[look]}`;
}

/** Something that opens by a press on its line. */
export function Fold({ line, quiet = false, children }: { line: ReactNode; quiet?: boolean; children: ReactNode }) {
  return (
    <details className="group">
      <summary className={`flex min-h-11 cursor-pointer items-center gap-1.5 ${quiet ? "text-quiet" : ""}`}>
        <Icon of={ChevronRight} size={17} className="shrink-0 group-open:rotate-90" />
        <span>{line}</span>
      </summary>
      {children}
    </details>
  );
}

/** A labelled field with its error below. */
export function Field({
  label,
  hint,
  errors,
  children,
}: {
  label: string;
  hint?: string;
  errors?: string[];
  children: (ids: { id: string; "aria-describedby"?: string; "aria-invalid"?: true }) => ReactNode;
}) {
  const id = useId();
  const note = `${id}-note`;
  const wrong = (errors?.length ?? 0) > 0;
  return (
    <div>
      <label htmlFor={id} className="block font-medium">
        {label}
      </label>
      {children({
        id,
        ...(hint || wrong ? { "aria-describedby": note } : {}),
        ...(wrong ? { "aria-invalid": true } : {}),
      })}
      {(hint || wrong) && (
        <p id={note} className={`mt-1 text-sm ${wrong ? "text-stop" : "text-quiet"}`}>
          {wrong ? errors?.join(" ") : hint}
        </p>
      )}
    </div>
  );
}

/** A part of a page with a heading and a thin rule above. */
export function Section({
  title,
  aside,
  children,
  id,
}: {
  title: string;
  aside?: ReactNode;
  children: ReactNode;
  id?: string;
}) {
  return (
    <section className="border-t border-rule pt-4 pb-6" aria-labelledby={id} id={id ? `${id}-part` : undefined}>
      <div className="mb-3 flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1">
        <h2 id={id}>{title}</h2>
        {aside && <div className="text-sm text-quiet">{aside}</div>}
      </div>
      {children}
    </section>
  );
}

/** A wide table in a frame that scrolls sideways on a phone, by touch and by keyboard. */
export function ScrollX({
  label,
  className = "",
  children,
}: {
  label: string;
  className?: string;
  children: ReactNode;
}) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: a frame that scrolls must be reachable from the keyboard
    <section className={`scroll-x ${className}`} aria-label={label} tabIndex={0}>
      {children}
    </section>
  );
}
