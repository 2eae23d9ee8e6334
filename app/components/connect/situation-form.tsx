import type { Situation } from "~/core/model/types";
import type { Asked } from "~/core/views/connect";

/** Fields of the situation under a lane, with their values in words. */
const ASKED: { [F in keyof Required<Asked>]: { label: string; values: [string, string][] } } = {
  key: {
    label: "Key",
    values: [
      ["off", "off"],
      ["accessory", "accessory"],
      ["on", "on"],
      ["cranking", "cranking"],
      ["running", "engine running"],
    ],
  },
  selector: { label: "Selector", values: ["P", "R", "N", "D"].map((s) => [s, s]) },
  lights: {
    label: "Lights",
    values: [
      ["false", "off"],
      ["true", "on"],
    ],
  },
  source: {
    label: "Radio plays",
    values: [
      ["radio", "tuner"],
      ["lineIn", "line input"],
      ["bluetooth", "Bluetooth"],
      ["usb", "USB"],
    ],
  },
  pictureMode: {
    label: "Picture",
    values: [
      ["factory", "factory"],
      ["phone", "phone"],
    ],
  },
  phone: {
    label: "Phone",
    values: [
      ["none", "none"],
      ["wired", "by cable"],
      ["wireless", "by wireless"],
      ["rememberedWired", "remembers the cable"],
    ],
  },
  paired: {
    label: "Paired with the car",
    values: [
      ["false", "no"],
      ["true", "yes"],
    ],
  },
};

/** One choice a field; `now` is how it stands. */
export function SituationForm({ now }: { now: Situation }) {
  return (
    <fieldset className="mt-3 grid grid-cols-2 gap-3 sm:grid-cols-4 xl:grid-cols-7">
      <legend className="mb-1 font-medium">In this situation</legend>
      {Object.entries(ASKED).map(([field, { label, values }]) => {
        const value = String(now[field as keyof Situation]);
        return (
          <label key={field} className="block">
            <span className="text-sm">{label}</span>
            <select name={field} defaultValue={value} key={value} className="field mt-1">
              {values.map(([v, word]) => (
                <option key={v} value={v}>
                  {word}
                </option>
              ))}
            </select>
          </label>
        );
      })}
    </fieldset>
  );
}
