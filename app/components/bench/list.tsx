import { Fragment, type ReactNode, useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { Icon } from "../icon";
import type { BenchItem } from "./bench";

const CIRCLE = "M12 4a8 8 0 1 0 0 16 8 8 0 1 0 0-16";
const SIGNS = {
  open: sign("text-strong", CIRCLE),
  done: sign("text-good", "M4 12l5.5 5.5L20 7", { "stroke-width": 3 }),
  wrong: sign("text-stop", "M8 2.5h8L21.5 8v8L16 21.5H8L2.5 16V8ZM12 7.5v5.5M12 16.3v.2"),
  watch: sign("text-watch", "M12 3.5L22 20.5H2ZM12 10v4.5M12 17.3v.2"),
  look: sign("text-strong", "M9 6l6 6-6 6"),
  later: sign("text-strong", CIRCLE, { "stroke-dasharray": "3 4" }),
} as const;

function sign(tone: string, d: string, look = {}) {
  return <Icon of={[["path", { d, ...look }]]} size={18} className={tone} />;
}

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
        const rows = () => mine.map((item) => <Row key={item.id} item={item} here={item.id === at} select={select} />);
        if (mine.every((i) => i.folded))
          return (
            <Folded key={group} name={group} count={mine.length} here={mine.some((i) => i.id === at)} rows={rows} />
          );
        return (
          <Fragment key={group}>
            {group && <Group name={group} items={mine} />}
            {rows()}
          </Fragment>
        );
      })}
    </nav>
  );
}

/** Rows that most people need not see; they are made when somebody opens them, or has one of them in hand. */
function Folded({ name, count, here, rows }: { name: string; count: number; here: boolean; rows(): ReactNode }) {
  const [opened, setOpened] = useState(false);
  return (
    <details open={here || undefined} onToggle={(e) => setOpened(e.currentTarget.open)}>
      <summary className="min-h-11 cursor-pointer border-b border-rule px-3 py-2.5 text-[0.93rem]">
        {name} <span className="num text-quiet">{count}</span>
      </summary>
      {(opened || here) && rows()}
    </details>
  );
}

function Row({ item, here, select }: { item: BenchItem; here: boolean; select(id: string): void }) {
  const props = {
    "aria-current": here || undefined,
    className: here ? "bench-row bg-raised font-semibold shadow-[inset_4px_0_0_var(--ink)]" : "bench-row",
    children: (
      <>
        {SIGNS[item.state]}
        <span className={item.state === "done" && !here ? "text-quiet" : undefined}>
          {item.title}
          {item.aside && <small>{item.aside}</small>}
          {item.word && <span className="sr-only">{`, ${item.word}`}</span>}
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
    <h2 className="flex items-baseline justify-between gap-2 border-b border-rule px-3 pt-3 pb-1 text-[0.85rem]! text-quiet">
      {name}
      {items.every((i) => i.state !== "look") && (
        <span className="num shrink-0 font-normal">{`${done} of ${items.length}`}</span>
      )}
    </h2>
  );
}
