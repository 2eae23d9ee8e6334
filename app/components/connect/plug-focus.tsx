import { Lock, Plug, Unplug } from "lucide";
import { JOINTS } from "~/core/connect/joints";
import type { Command } from "~/core/log/entry";
import { upperFirst } from "~/core/model/labels";
import type { JointKind } from "~/core/model/types";
import type { connectView } from "~/core/views/connect";
import { Focus } from "../bench/focus";
import { JointView } from "../drawings/joint-view";
import { EntryButton } from "../entry-form";
import { Icon } from "../icon";
import { Mark } from "../marks";
import { PlugFaces } from "./plug-faces";
import { SupplyMark } from "./supply-mark";

export type Row = ReturnType<typeof connectView>["connections"][number];

/** The plug in hand: both halves large, where it goes, and a button for each place it fits. */
export function PlugFocus({ row, after }: { row: Row; after: string | undefined }) {
  return (
    <Focus
      kicker={row.joint ? "Joint" : "Plug"}
      marks={
        row.wrong ? (
          <Mark tone="stop">Wrong place</Mark>
        ) : row.plugged && row.marked && row.lock === "open" ? (
          <Mark tone="stop">Lock bar open</Mark>
        ) : (
          row.plugged && <Mark tone="good">{row.joint ? JOINTS[row.joint].done : "Plugged"}</Mark>
        )
      }
      title={row.say}
      after={after}
      actions={
        row.plugged ? (
          row.marked && (
            <>
              {row.lock === "open" && <ShutLock row={row} />}
              <Out row={row} />
            </>
          )
        ) : (
          <In row={row} />
        )
      }
      picture={
        row.joint ? (
          <JointView joint={row.joint} joined={row.joined} />
        ) : (
          row.halves.length > 0 && <PlugFaces {...row} />
        )
      }
    >
      {row.joint ? (
        <JointWords {...row} joint={row.joint} />
      ) : (
        <p className="num text-sm text-quiet">{lookWords(row)}</p>
      )}
      {!row.plugged && row.why && <p>{row.why}</p>}
      {!row.plugged && row.supply !== "keyOff" && <SupplyMark supply={row.supply} />}
    </Focus>
  );
}

/** What such an end is, and while it is to be made how it holds. */
function JointWords({ joint, plugged }: Row & { joint: JointKind }) {
  const { end, points } = JOINTS[joint];
  return (
    <>
      <p className="text-quiet">{upperFirst(end)}.</p>
      {!plugged && (
        <ul className="mt-1 list-disc pl-5">
          {points.map((p) => (
            <li key={p}>{p}</li>
          ))}
        </ul>
      )}
    </>
  );
}

function ShutLock({ row }: { row: Row }) {
  return (
    <EntryButton
      look="next"
      body={{ kind: "connect.lock", data: { link: row.link, shut: true } }}
      label={`Lock bar shut: ${row.say}`}
      shortcut="Space"
    >
      <Icon of={Lock} size={18} /> Lock bar shut
    </EntryButton>
  );
}

function Out({ row }: { row: Row }) {
  return (
    <EntryButton
      body={{ kind: "connect.plug", data: { link: row.link, plugged: false } }}
      label={`${row.joint ? "Taken off again" : "Unplug"}: ${row.say}`}
      shortcut="u"
    >
      <Icon of={Unplug} size={18} /> {row.joint ? "Taken off again" : "Unplug"}
    </EntryButton>
  );
}

/** The plug goes in; a ribbon is locked with the same hand. */
function plugged({ link, lock }: Row, more: { at?: string } = {}): Command[] {
  return [
    { kind: "connect.plug", data: { link, plugged: true, ...more } },
    ...(lock ? [{ kind: "connect.lock", data: { link, shut: true } } as const] : []),
  ];
}

/** Where it fits several sockets, or both ways round, it is said where it went; else one button. */
function In({ row }: { row: Row }) {
  const done = row.joint ? JOINTS[row.joint].done : "Plugged";
  if (row.places.length === 0)
    return (
      <EntryButton look="next" body={plugged(row)} label={`${done}: ${row.say}`} shortcut="Space">
        <Icon of={Plug} size={18} /> {row.lock ? "Home, lock bar shut" : done}
      </EntryButton>
    );
  return (
    <>
      <p className="w-full text-quiet">It fits more than one way. Plugged into:</p>
      {row.places.map((p, i) => (
        <EntryButton
          key={p.port}
          look={p.planned ? "next" : "plain"}
          body={plugged(row, p.planned ? {} : { at: p.port })}
          label={p.planned ? `Plugged: ${row.say}, ${p.name}` : `Into ${p.name}: ${row.say}`}
          shortcut={String(i + 1)}
        >
          {p.name}
          {p.planned && <span className="text-sm font-normal">as planned</span>}
          {row.lock && <span className="text-sm font-normal">lock bar shut</span>}
        </EntryButton>
      ))}
      {row.reversible && (
        <EntryButton
          body={{ kind: "connect.plug", data: { link: row.link, plugged: true, turned: true } }}
          label={`Turned over: ${row.say}`}
          shortcut="t"
        >
          Turned over
        </EntryButton>
      )}
    </>
  );
}

/** Both halves in words; function first, colour last. */
function lookWords({ halves }: Row): string {
  const [plug, socket] = halves.map((h) => h.port.connector);
  if (!plug || !socket) return "";
  const colour =
    plug.colour && socket.colour && plug.colour !== socket.colour
      ? `${plug.colour} plug into ${socket.colour} socket`
      : plug.colour || socket.colour;
  return [plug.family, plug.keying && `keying ${plug.keying}`, colour].filter(Boolean).join(" · ");
}
