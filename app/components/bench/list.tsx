import { Check, ChevronRight, Circle, CircleDashed, OctagonAlert, TriangleAlert } from "lucide-react";
import { Fragment, useEffect, useRef } from "react";
import { Link } from "react-router";
import type { BenchItem } from "./bench";

const SIGNS = {
  open: <Circle size={15} aria-hidden="true" className="text-strong" />,
  done: <Check size={17} strokeWidth={3} aria-hidden="true" className="text-good" />,
  wrong: <OctagonAlert size={17} aria-hidden="true" className="text-stop" />,
  watch: <TriangleAlert size={17} aria-hidden="true" className="text-watch" />,
  look: <ChevronRight size={16} aria-hidden="true" className="text-strong" />,
  later: <CircleDashed size={15} aria-hidden="true" className="text-strong" />,
} as const;

/** The things of a surface as compact rows. */
export function List({
  label,
  items,
  at,
  select,
}: {
  label: string;
  items: readonly BenchItem[];
  at: string;
  select(id: string): void;
}) {
  const list = useRef<HTMLElement>(null);
  // The row in hand is kept in view inside the list; the page itself stays where it is.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the row in hand decides where the list stands
  useEffect(() => {
    const frame = list.current?.parentElement;
    const row = list.current?.querySelector<HTMLElement>("[aria-current]");
    if (!frame || !row || frame.scrollHeight <= frame.clientHeight) return;
    const top = row.offsetTop - frame.offsetTop;
    if (top < frame.scrollTop || top + row.offsetHeight > frame.scrollTop + frame.clientHeight)
      frame.scrollTop = top - frame.clientHeight / 3;
  }, [at]);
  const groups = [...new Set(items.map((i) => i.group ?? ""))];
  return (
    <nav ref={list} aria-label={label}>
      {groups.map((group) => {
        const mine = items.filter((i) => (i.group ?? "") === group);
        const rows = mine.map((item) => <Row key={item.id} item={item} here={item.id === at} select={select} />);
        if (mine.every((i) => i.folded))
          return (
            <details key={group} open={mine.some((i) => i.id === at) || undefined}>
              <summary className="min-h-11 cursor-pointer border-b border-rule px-3 py-2.5 text-[0.93rem]">
                {group} <span className="num text-quiet">{mine.length}</span>
              </summary>
              {rows}
            </details>
          );
        return (
          <Fragment key={group}>
            {group && <Group name={group} items={mine} />}
            {rows}
          </Fragment>
        );
      })}
    </nav>
  );
}

function Row({ item, here, select }: { item: BenchItem; here: boolean; select(id: string): void }) {
  const props = {
    "aria-current": here || undefined,
    className: `flex min-h-11 items-center gap-2.5 border-b border-rule px-3 py-1 leading-tight no-underline ${here ? "bg-raised font-semibold shadow-[inset_4px_0_0_var(--ink)]" : ""}`,
    children: (
      <>
        <span className="grid w-[18px] shrink-0 place-items-center">{SIGNS[item.state]}</span>
        <span className={`min-w-0 flex-1 text-[0.93rem] ${item.state === "done" && !here ? "text-quiet" : ""}`}>
          {item.title}
          {item.aside && <span className="block text-[0.82rem] font-normal text-quiet">{item.aside}</span>}
          {item.word && <span className="sr-only">, {item.word}</span>}
        </span>
      </>
    ),
  };
  if (item.to) return <Link to={item.to} preventScrollReset {...props} />;
  return (
    <a
      href={`?at=${encodeURIComponent(item.id)}#do`}
      onClick={(e) => {
        if (e.metaKey || e.ctrlKey) return;
        e.preventDefault();
        select(item.id);
      }}
      {...props}
    />
  );
}

function Group({ items, name }: { items: readonly BenchItem[]; name: string }) {
  const done = items.filter((i) => i.state === "done").length;
  return (
    <h2 className="flex items-baseline justify-between border-b border-rule px-3 pt-3 pb-1 text-[0.85rem]! text-quiet">
      {name}
      {items.every((i) => i.state !== "look") && (
        <span className="num font-normal">
          {done} of {items.length}
        </span>
      )}
    </h2>
  );
}
