import { Plug, Unplug } from "lucide-react";
import { useCallback, useRef, useState } from "react";
import type { Connection, SupplyState } from "~/core/connect/connection-plan";
import { Button } from "../controls";
import { EntryButton, useJob } from "../entry-form";
import { Mark } from "../marks";
import { FindLead } from "./find-lead";
import { PlugFaces, type PlugHalf } from "./plug-faces";
import { SupplyMark } from "./supply-mark";

interface Look {
  family: string;
  keying: string;
  colour: string;
}
interface Row extends Connection {
  why: string;
  supply: SupplyState;
  reversible: boolean;
  plugged: boolean;
  marked: boolean;
  plug: Look | null;
  socket: Look | null;
  halves: PlugHalf[];
  /** It sits in another place than planned, or turned over. */
  wrong: boolean;
  /** Places into which the plug goes. */
  places: { port: string; name: string; planned: boolean }[];
}

/** Every connection to make, with what the plug looks like, and a large button to mark it. */
export function ConnectionList({ connections }: { connections: Row[] }) {
  const { next } = useJob();
  const [shown, setShown] = useState<string | null>(null);
  const list = useRef<HTMLOListElement>(null);
  const goTo = useCallback((link: string) => {
    setShown(link);
    const row = list.current?.querySelector<HTMLElement>(`[data-link="${CSS.escape(link)}"]`);
    row?.scrollIntoView({ block: "center" });
    row?.querySelector("button")?.focus();
  }, []);
  const first = connections.find((c) => !c.plugged)?.link;
  return (
    <>
      <FindLead connections={connections} onFound={goTo} />
      <ol ref={list}>
        {connections.map((c, i) => {
          const isNext = next.stage === "connect" && c.link === first;
          return (
            <li
              key={c.link}
              data-link={c.link}
              className={`grid grid-cols-[1.8rem_minmax(0,1fr)_auto] items-center gap-x-3 border-b border-rule py-2.5 ${isNext || shown === c.link ? "bg-raised px-2" : ""}`}
            >
              <span className="num text-quiet">{i + 1}</span>
              <div>
                <p className={c.plugged ? "text-quiet" : "font-medium"}>{c.say}</p>
                <p className="num text-sm text-quiet">{lookWords(c.plug, c.socket)}</p>
                {!c.plugged && c.why && <p className="text-sm text-quiet">{c.why}</p>}
                {!c.plugged && c.supply !== "keyOff" && <SupplyMark supply={c.supply} />}
                {c.halves.length > 0 && (
                  <Button
                    look="quiet"
                    className="px-0! text-sm"
                    aria-expanded={shown === c.link}
                    aria-label={`${shown === c.link ? "Hide" : "Show"} the plug: ${c.say}`}
                    onClick={() => setShown(shown === c.link ? null : c.link)}
                  >
                    {shown === c.link ? "Hide the plug" : "Show the plug"}
                  </Button>
                )}
              </div>
              {c.plugged ? (
                <div className="flex flex-wrap items-center justify-end gap-1">
                  {c.wrong ? <Mark tone="stop">Wrong place</Mark> : <Mark tone="good">Plugged</Mark>}
                  {c.marked && (
                    <EntryButton
                      look="quiet"
                      body={{ kind: "connect.plug", data: { link: c.link, plugged: false } }}
                      label={`Unplug: ${c.say}`}
                    >
                      <Unplug size={16} aria-hidden="true" /> <span className="hidden sm:inline">Unplug</span>
                    </EntryButton>
                  )}
                </div>
              ) : c.places.length > 1 || c.reversible ? (
                <div className="flex flex-col items-stretch gap-1">
                  <span className="text-sm text-quiet">Plugged into</span>
                  {c.places.map((p) => (
                    <EntryButton
                      key={p.port}
                      body={{
                        kind: "connect.plug",
                        data: { link: c.link, plugged: true, ...(p.planned ? {} : { at: p.port }) },
                      }}
                      label={p.planned ? `Plugged: ${c.say}, ${p.name}` : `Into ${p.name}: ${c.say}`}
                    >
                      {p.name}
                    </EntryButton>
                  ))}
                  {c.reversible && (
                    <EntryButton
                      look="quiet"
                      body={{ kind: "connect.plug", data: { link: c.link, plugged: true, turned: true } }}
                      label={`Turned over: ${c.say}`}
                    >
                      Turned over
                    </EntryButton>
                  )}
                </div>
              ) : (
                <EntryButton
                  look={isNext ? "next" : "plain"}
                  body={{ kind: "connect.plug", data: { link: c.link, plugged: true } }}
                  label={`Plugged: ${c.say}`}
                >
                  <Plug size={18} aria-hidden="true" /> Plugged
                </EntryButton>
              )}
              {shown === c.link && (
                <div className="col-span-3">
                  <PlugFaces halves={c.halves} />
                </div>
              )}
            </li>
          );
        })}
      </ol>
    </>
  );
}

/** Both halves in words; function first, colour last. */
function lookWords(plug: Look | null, socket: Look | null): string {
  if (!plug || !socket) return "";
  const colour =
    plug.colour && socket.colour && plug.colour !== socket.colour
      ? `${plug.colour} plug into ${socket.colour} socket`
      : plug.colour || socket.colour;
  return [plug.family, plug.keying && `keying ${plug.keying}`, colour].filter(Boolean).join(" · ");
}
