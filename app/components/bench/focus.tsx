import { type ReactNode, useId } from "react";

/** What is in hand, always in the same order: where it belongs, what it is, what to do with it, its picture. */
export function Focus({
  kicker,
  title,
  marks,
  actions,
  children,
  picture,
  after,
}: {
  kicker?: ReactNode;
  title: ReactNode;
  marks?: ReactNode;
  /** Buttons; the first is the likely one. */
  actions?: ReactNode;
  /** Words between title and buttons. */
  children?: ReactNode;
  picture?: ReactNode;
  /** What comes after it. */
  after?: string | undefined;
}) {
  const id = useId();
  return (
    <section aria-labelledby={id}>
      <div className="flex min-h-11 flex-wrap items-center gap-x-3 gap-y-1 text-quiet">
        {kicker}
        {marks}
      </div>
      <h2 id={id} className="text-[1.6rem]! leading-tight">
        {title}
      </h2>
      {children && <div className="mt-2 max-w-[44rem] space-y-2">{children}</div>}
      {actions && <div className="mt-4 flex flex-wrap gap-2">{actions}</div>}
      {after && <p className="mt-3 truncate text-sm text-quiet">Then: {after}</p>}
      {picture && <div className="mt-5">{picture}</div>}
    </section>
  );
}
