import type { ConnectTask } from "~/core/connect/connection-plan";
import type { Command } from "~/core/log/entry";
import type { connectView } from "~/core/views/connect";
import { Focus } from "../bench/focus";
import { EntryButton } from "../entry-form";
import { Mark } from "../marks";
import { PlugFaces } from "./plug-faces";
import { SupplyMark } from "./supply-mark";

const WORDS: Record<ConnectTask["kind"], string> = {
  unplug: "Unplug",
  park: "Park",
  move: "Move",
  cut: "Cut and move",
  plug: "Plug",
};
export const TASK_DONE: Record<ConnectTask["kind"], string> = {
  unplug: "Unplugged",
  park: "Parked",
  move: "Moved",
  cut: "Moved",
  plug: "Plugged",
};

export type TaskRow = ReturnType<typeof connectView>["before"][number];

/** What comes off, is parked, moved or cut before the kit is plugged. */
export function TaskFocus({ task, after }: { task: TaskRow; after: string | undefined }) {
  const done = TASK_DONE[task.kind];
  return (
    <Focus
      kicker={WORDS[task.kind]}
      marks={task.done && <Mark tone="good">{done}</Mark>}
      title={task.say}
      after={after}
      picture={task.halves.length > 0 && <PlugFaces {...task} />}
      actions={
        !task.done && (
          <EntryButton look="next" body={entry(task)} label={`${done}: ${task.say}`} shortcut="Space">
            {done}
          </EntryButton>
        )
      }
    >
      <p>{task.why}</p>
      {!task.done && <SupplyMark supply={task.supply} />}
    </Focus>
  );
}

function entry(t: TaskRow): Command {
  return t.setting
    ? { kind: "configure.set", data: { setting: t.setting, done: true } }
    : { kind: "connect.task", data: { task: t.id, done: true } };
}
