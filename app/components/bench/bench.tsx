import { CarFront, ChevronLeft, ChevronRight, Hand, X } from "lucide";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { Button, buttonLook } from "../controls";
import { Icon } from "../icon";
import { Keys } from "./keys";
import { List } from "./list";
import { useSelection } from "./use-selection";

/** A thing on a surface: a row of its list, and the focus when it is taken in hand. */
export interface BenchItem {
  id: string;
  title: string;
  /** A few words beside the title: the place, the value, how often. */
  aside?: string;
  /** Heading of the rows that belong together. */
  group?: string;
  /** How it stands: a word that is read out, a sign and colour for the eye. */
  state: "open" | "done" | "wrong" | "watch" | "later" | "look";
  word: string;
  /** An address that brings what it needs from the server; without it the row is already here. */
  to?: string;
  /** It stays in hand when it counts as done: there is more than one thing to say in it. */
  stays?: boolean;
  /** Rows of a group that most people need not see are folded away. */
  folded?: boolean;
}

/**
 * A surface of a job: the list of its things, the one in hand, and the car. Rows, arrow keys and doing the next action
 * move the one in hand; on a phone it comes first, the list below, the car in a sheet.
 */
export function Bench<T extends BenchItem>({
  label,
  items,
  next,
  above,
  car,
  empty,
  handsPage,
  children,
}: {
  /** Name of the list. */
  label: string;
  items: readonly T[];
  /** The thing that the next action of the job is about, when it is here. */
  next: string | undefined;
  /** Above the one in hand, whichever it is: only what is urgent. */
  above?: ReactNode;
  /** Its drawings; they may follow the one in hand. */
  car: ReactNode | ((item: T) => ReactNode);
  /** A page of its own for the step-by-step mode, where a surface has one. */
  handsPage?: string;
  /** Shown when there is nothing to list. */
  empty: ReactNode;
  /** The one in hand. */
  children: (item: T, after: T | undefined, select: (id: string) => void) => ReactNode;
}) {
  const { item, index, select, move, pane } = useSelection(items, next);
  const [alone, setAlone] = useState(false);
  if (!item)
    return (
      <main id="content" className="px-4 py-6">
        {above}
        {empty}
      </main>
    );
  const pictures = typeof car === "function" ? car(item) : car;
  const focus = (
    <section
      ref={pane}
      tabIndex={-1}
      aria-label="In hand"
      id="do"
      className="scroll-mt-44 outline-none"
      data-alone={alone || undefined}
    >
      {above}
      {children(item, items[index + 1], select)}
    </section>
  );
  return (
    <>
      <Keys move={move} />
      {alone ? (
        <main id="content" className="fixed inset-0 z-30 flex flex-col bg-paper">
          <div className="flex items-center gap-3 border-b border-rule px-3">
            <Button look="quiet" className="px-1!" onClick={() => setAlone(false)} aria-keyshortcuts="Escape">
              <Icon of={X} size={20} /> Back to the list
            </Button>
            <span className="num ml-auto text-quiet">
              {index + 1} of {items.length}
            </span>
          </div>
          <div className="min-h-0 flex-1 overflow-y-auto px-4 py-4 sm:px-10">{focus}</div>
          <div className="flex gap-2 border-t border-rule bg-raised p-2 sm:px-10">
            <Button className="min-h-16! flex-1" onClick={() => move(-1)}>
              <Icon of={ChevronLeft} size={26} /> Before
            </Button>
            <Button className="min-h-16! flex-1" onClick={() => move(1)}>
              After <Icon of={ChevronRight} size={26} />
            </Button>
          </div>
        </main>
      ) : (
        <main
          id="content"
          className={`grid grid-cols-[minmax(0,1fr)] lg:min-h-[calc(100dvh-100px)] lg:grid-cols-[18.5rem_minmax(0,1fr)] ${pictures ? "xl:grid-cols-[18.5rem_minmax(0,1fr)_22rem]" : ""}`}
        >
          <div
            className={`order-1 min-w-0 border-rule px-4 py-3 lg:order-2 lg:border-l lg:px-6 lg:pt-4 lg:pb-20 ${pictures ? "xl:border-r" : ""}`}
          >
            <div className="float-right ml-3 flex gap-1">
              {handsPage ? (
                <Link to={handsPage} aria-label="Step-by-step mode" className={`${buttonLook("quiet")} w-11 px-0!`}>
                  <Icon of={Hand} size={20} />
                </Link>
              ) : (
                <Button
                  look="quiet"
                  className="w-11 px-0!"
                  aria-label="Step-by-step mode"
                  onClick={() => setAlone(true)}
                >
                  <Icon of={Hand} size={20} />
                </Button>
              )}
              {pictures && (
                <button
                  type="button"
                  popoverTarget="car"
                  className="inline-flex min-h-11 items-center gap-2 px-2 underline decoration-strong underline-offset-4 xl:hidden"
                >
                  <Icon of={CarFront} size={20} /> Car
                </button>
              )}
            </div>
            {focus}
          </div>
          <div className="order-2 border-rule max-lg:border-t lg:sticky lg:top-[100px] lg:order-1 lg:max-h-[calc(100dvh-100px)] lg:overflow-y-auto">
            <List label={label} items={items} at={item.id} select={select} />
          </div>
          {pictures && <CarPane>{pictures}</CarPane>}
        </main>
      )}
    </>
  );
}

/** Beside the one in hand on a wide screen, a sheet on a narrow one. */
function CarPane({ children }: { children: ReactNode }) {
  return (
    <aside
      id="car"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: a frame that scrolls must be reachable from the keyboard
      tabIndex={0}
      popover="auto"
      aria-label="The car"
      className="order-3 m-0 max-h-none w-auto border-rule bg-paper p-4 text-ink max-xl:inset-x-0 max-xl:top-auto max-xl:bottom-0 max-xl:max-h-[85dvh] max-xl:max-w-none max-xl:overflow-y-auto max-xl:border-t-2 xl:sticky xl:inset-auto xl:top-[100px] xl:block xl:max-h-[calc(100dvh-100px)] xl:overflow-y-auto xl:pb-20"
    >
      <Button
        look="quiet"
        className="float-right px-0! xl:hidden"
        onClick={(e) => e.currentTarget.closest<HTMLElement>("[popover]")?.hidePopover()}
      >
        <Icon of={X} size={20} /> Close
      </Button>
      {children}
    </aside>
  );
}
