import { Download, Play, Square } from "lucide";
import { useState } from "react";
import { saveBlob } from "~/app/lib/save-text";
import { TEST_SIGNALS, type TestSignalId } from "~/core/sound/test-signals";
import { Button } from "../controls";
import { Icon } from "../icon";
import { useSound } from "./use-sound";

const IDS = Object.keys(TEST_SIGNALS) as TestSignalId[];

/** A sound to hear loudspeakers by: played by this device, which may be the phone of the car, or saved for a stick. */
export function TestSounds() {
  const [id, setId] = useState<TestSignalId>("pink");
  const { worker, playing, making, play, stop } = useSound();

  async function save() {
    const file = await worker.current?.file(id);
    if (file) saveBlob(new Blob([file], { type: "audio/wav" }), `${id}.wav`);
  }

  return (
    <div className="flex max-w-xs flex-wrap content-start items-end gap-3">
      <label className="block">
        <span className="block text-sm text-quiet">Sound to hear by, at −20 dB; volume low first</span>
        <select
          className="field w-auto!"
          value={id}
          onChange={(e) => {
            stop();
            setId(e.currentTarget.value as TestSignalId);
          }}
        >
          {IDS.map((s) => (
            <option key={s} value={s}>
              {TEST_SIGNALS[s].name}
            </option>
          ))}
        </select>
      </label>
      {playing !== null && !making ? (
        <Button onClick={stop}>
          <Icon of={Square} size={18} /> Stop
        </Button>
      ) : (
        <Button onClick={() => void play(id)} disabled={making}>
          <Icon of={Play} size={18} /> {making ? "Making it ..." : "Play here"}
        </Button>
      )}
      <Button look="quiet" onClick={() => void save()}>
        <Icon of={Download} size={18} /> For a stick (WAV)
      </Button>
    </div>
  );
}
