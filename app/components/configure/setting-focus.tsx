import { ArrowRight, Binary, Check, RotateCcw } from "lucide-react";
import type { KitSetting, SettingMeans } from "~/core/model/profile";
import { Focus } from "../bench/focus";
import { Button } from "../controls";
import { EntryButton } from "../entry-form";
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
  menu: { title: "Menu of the radio" },
};

/** A setting beside the switch bank; ticked when it is made, and counted by every answer of the job. */
export function SettingFocus({
  set,
  word,
  maps,
  select,
  after,
}: {
  set: KitSetting & { done: boolean };
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
      actions={
        word !== undefined ? (
          <Button look={set.done ? "plain" : "next"} onClick={() => select(word)} aria-keyshortcuts="Space">
            <ArrowRight size={18} aria-hidden="true" /> To the coded word
          </Button>
        ) : (
          <>
            {map && (
              <EntryButton look="next" body={takeMap(map)} shortcut="Space">
                <Binary size={18} aria-hidden="true" /> Read it from the car: use the coding map
              </EntryButton>
            )}
            <EntryButton
              look={set.done || map ? "plain" : "next"}
              body={{ kind: "configure.set", data: { setting: set.setting, done: !set.done } }}
              shortcut={set.done ? "u" : map ? "m" : "Space"}
            >
              {set.done ? <RotateCcw size={18} aria-hidden="true" /> : <Check size={18} aria-hidden="true" />}
              {set.done ? "Not made after all" : map ? "Made with another tool" : "Made"}
            </EntryButton>
          </>
        )
      }
    >
      {caution && <p className="text-watch">{caution}</p>}
    </Focus>
  );
}
