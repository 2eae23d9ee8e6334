import { ArrowRight, Binary, Check, RotateCcw } from "lucide";
import { upperFirst } from "~/core/model/labels";
import type { SettingMeans } from "~/core/model/profile";
import type { configureView } from "~/core/views/configure";
import { Focus } from "../bench/focus";
import { Button } from "../controls";
import { EntryButton } from "../entry-form";
import { Icon } from "../icon";
import { Mark } from "../marks";
import { type MapChoice, takeMap } from "./map-focus";

const MEANS: Record<SettingMeans, { title: string; caution?: string }> = {
  contacts: { title: "Contacts to move", caution: "Open the secondary lock first; the contact must click." },
  programming: { title: "Loaded on a computer before fitting" },
  firmware: { title: "Firmware", caution: "Battery maintainer on; never unplug while it writes." },
  coding: {
    title: "Coded word",
    caution: "Read and save a copy first, change the fewest bits, read back, clear codes, scan again. Maintainer on.",
  },
  gateway: {
    title: "Gateway list",
    caution: "Read and save a copy first, read back after writing, scan again. Maintainer on.",
  },
  programmingPlug: {
    title: "Programming plug",
    caution: "Maintainer on. Never pull it while it blinks, never leave it in the car.",
  },
  menu: { title: "Menu" },
};

/** A setting beside the switch bank; ticked when it is made, and counted by every answer of the job. */
export function SettingFocus({
  set,
  word,
  maps,
  select,
  after,
}: {
  set: ReturnType<typeof configureView>["sets"][number];
  /** The coded word that says how it stands, where a coding map knows one. */
  word: string | undefined;
  /** Coding maps that could be taken to read it from the car. */
  maps: readonly MapChoice[];
  select(id: string): void;
  after: string | undefined;
}) {
  const { title, caution } = MEANS[set.means];
  const map = !set.done && (set.means === "coding" || set.means === "gateway") ? maps[0] : undefined;
  return (
    <Focus
      kicker={title}
      marks={set.done && <Mark tone="good">Made</Mark>}
      title={set.say}
      after={after}
      picture={set.values.length > 1 && <Values label={set.label} values={set.values} />}
      actions={
        word !== undefined ? (
          <Button look={set.done ? "plain" : "next"} onClick={() => select(word)} aria-keyshortcuts="Space">
            <Icon of={ArrowRight} size={18} /> To the coded word
          </Button>
        ) : (
          <>
            {map && (
              <EntryButton look="next" body={takeMap(map)} shortcut="Space">
                <Icon of={Binary} size={18} /> Read it from the car: use the coding map
              </EntryButton>
            )}
            <EntryButton
              look={set.done || map ? "plain" : "next"}
              body={{ kind: "configure.set", data: { setting: set.setting, done: !set.done } }}
              shortcut={set.done ? "u" : map ? "m" : "Space"}
            >
              {set.done ? <Icon of={RotateCcw} size={18} /> : <Icon of={Check} size={18} />}
              {set.done ? "Not made after all" : map ? "Made with another tool" : "Made"}
            </EntryButton>
          </>
        )
      }
    >
      {set.where && (
        <p className="text-lg">
          <span className="text-quiet">Where:</span> {set.where}
        </p>
      )}
      {caution && <p className="text-watch">{caution}</p>}
    </Focus>
  );
}

/** What each value of an entry does on this car; the one to choose stands out by word and weight. */
function Values({ label, values }: Pick<Parameters<typeof SettingFocus>[0]["set"], "label" | "values">) {
  return (
    <table className="w-full max-w-[44rem]">
      <caption className="pb-1 text-left text-sm text-quiet">{label}: what each value does on this car</caption>
      <tbody>
        {values.map((v) => (
          <tr key={v.value} className="border-t border-rule align-top">
            <th scope="row" className={`py-2 pr-4 text-left ${v.planned ? "text-lg font-semibold" : "font-normal"}`}>
              {upperFirst(spaced(v.value))}
            </th>
            <td className="py-2 pr-4 text-sm text-quiet">
              {[v.planned && "choose this", v.delivered && "as delivered"].filter(Boolean).join(", ")}
            </td>
            <td className="py-2">
              {v.planned
                ? ""
                : v.breaks.length > 0
                  ? `Breaks: ${v.breaks.join(", ")}`
                  : "Nothing that can be tried here"}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** `carBluetooth` as people write it. */
function spaced(value: string): string {
  return value.replace(/([a-z])([A-Z])/g, "$1 $2");
}
