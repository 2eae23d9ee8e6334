import type { ConnectTask } from "~/core/connect/connection-plan";
import type { Command } from "~/core/log/entry";
import { EntryButton } from "../entry-form";
import { Mark } from "../marks";
import { SupplyMark } from "./supply-mark";

const WORDS: Record<ConnectTask["kind"], string> = {
  unplug: "Unplug",
  park: "Park",
  move: "Move",
  cut: "Cut and move",
  plug: "Plug",
};
const DONE: Record<ConnectTask["kind"], string> = {
  unplug: "Off",
  park: "Parked",
  move: "Moved",
  cut: "Moved",
  plug: "Plugged",
};

/** What comes off, is parked, moved or cut before the kit is plugged, the deepest place first. */
export function BeforePlugging({ tasks }: { tasks: (ConnectTask & { done: boolean })[] }) {
  return (
    <ol>
      {tasks.map((t) => (
        <li key={t.id} className="flex items-center gap-x-3 border-b border-rule py-2.5">
          <div className="min-w-0 flex-1">
            <p className="text-sm text-quiet">{WORDS[t.kind]}</p>
            <p className={t.done ? "text-quiet" : "font-medium"}>{t.say}</p>
            <p className="text-sm text-quiet">{t.why}</p>
            {!t.done && <SupplyMark supply={t.supply} />}
          </div>
          {t.done ? (
            <Mark tone="good">{DONE[t.kind]}</Mark>
          ) : (
            <EntryButton body={entry(t)} label={`${DONE[t.kind]}: ${t.say}`}>
              {DONE[t.kind]}
            </EntryButton>
          )}
        </li>
      ))}
    </ol>
  );
}

function entry(t: ConnectTask): Command {
  return t.setting
    ? { kind: "configure.set", data: { setting: t.setting, done: true } }
    : { kind: "connect.task", data: { task: t.id, done: true } };
}
