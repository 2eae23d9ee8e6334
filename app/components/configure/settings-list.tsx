import { Check, RotateCcw } from "lucide-react";
import type { KitSetting, SettingMeans } from "~/core/model/profile";
import { Section } from "../controls";
import { EntryButton, useJob } from "../entry-form";
import { Mark, Notice } from "../marks";

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

/** What has to be set beside the switch bank; ticked when it is made, and counted by every answer of the job. */
export function SettingsList({ sets }: { sets: (KitSetting & { done: boolean })[] }) {
  const { next } = useJob();
  if (sets.length === 0) return null;
  const left = sets.filter((s) => !s.done);
  return (
    <Section title="Settings to make" id="settings" aside={`${sets.length - left.length} of ${sets.length} made`}>
      {left.length === 0 && <Notice tone="good" title="Every setting is made." />}
      <ul className="mt-2">
        {sets.map((s) => (
          <li
            key={s.setting}
            className="grid items-center gap-x-6 gap-y-2 border-b border-rule py-3 first:border-t md:grid-cols-[minmax(0,1fr)_auto]"
          >
            <div>
              <p className="flex flex-wrap items-center gap-x-3 text-sm text-quiet">
                {MEANS[s.means].title}
                {s.done && <Mark tone="good">Made</Mark>}
              </p>
              <p className="font-medium">{s.say}</p>
              {MEANS[s.means].caution && <p className="text-watch">{MEANS[s.means].caution}</p>}
            </div>
            <EntryButton
              look={!s.done && s === left[0] && next.stage === "configure" ? "next" : "plain"}
              body={{ kind: "configure.set", data: { setting: s.setting, done: !s.done } }}
            >
              {s.done ? (
                <>
                  <RotateCcw size={18} aria-hidden="true" /> Not made after all
                </>
              ) : (
                <>
                  <Check size={18} aria-hidden="true" /> Made
                </>
              )}
            </EntryButton>
          </li>
        ))}
      </ul>
    </Section>
  );
}
