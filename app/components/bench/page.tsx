import type { ReactNode } from "react";

/** A surface that is read as one page. */
export function Page({ children }: { children: ReactNode }) {
  return (
    <main id="content" className="mx-auto max-w-[80rem] px-4 pt-5 pb-24 sm:px-6">
      {children}
    </main>
  );
}
