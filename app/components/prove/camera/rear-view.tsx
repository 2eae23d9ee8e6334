import { Check, Play, Square } from "lucide";
import { useRef, useState } from "react";
import { NEAR, OBJECTS, type Verdict } from "~/core/camera/rear-view";
import { LATEST_S } from "~/core/camera/response-time";
import { Focus } from "../../bench/focus";
import { Button, ScrollX } from "../../controls";
import { EntryButton, useAppend, useJob } from "../../entry-form";
import { Icon } from "../../icon";
import { Mark, Notice } from "../../marks";
import { CameraPicture } from "./camera-picture";
import { cylinders } from "./cylinders";
import { FigureFields } from "./figure-fields";
import { bumperOf } from "./figures";
import type { ShownCamera } from "./measure-camera";

const SAYS: Record<Verdict, { word: string; tone: "good" | "stop" | "watch" }> = {
  meets: { word: "Meets", tone: "good" },
  doesNot: { word: "Does not meet", tone: "stop" },
  notShown: { word: "Cannot be shown", tone: "watch" },
};

/** Time, field and size of the rear view against the rule of 49 CFR 571.111, from what was measured. */
export function RearViewRule({ camera, after }: { camera: ShownCamera; after: string | undefined }) {
  const { rear, time, measured } = camera;
  const verdicts: [string, Verdict, string][] = [
    [
      "Time",
      time?.verdict ?? "notShown",
      time ? `${time.seconds.toFixed(2)} s ± ${time.offS.toFixed(2)}; at most ${LATEST_S} s` : "not taken yet",
    ],
    ["Field", rear?.field ?? "notShown", rear ? fieldWords(rear.objects) : "measure the camera first"],
    [
      "Size",
      rear?.size ?? "notShown",
      rear
        ? rear.meanArcmin === null
          ? `not known: ${rear.missing.join(", ")}`
          : `${rear.meanArcmin.toFixed(1)}' on average; at least 5'`
        : "measure the camera first",
    ],
  ];
  const all = verdicts.map(([, v]) => v);
  return (
    <Focus
      kicker={`${camera.name}, required rear view`}
      marks={<Mark tone={SAYS[worst(all)].tone}>{SAYS[worst(all)].word}</Mark>}
      title={time ? `Picture ${time.seconds.toFixed(2)} s after reverse` : "Take the time from reverse to the picture"}
      after={after}
      picture={
        <div className="max-w-2xl space-y-4">
          {measured && (
            <CameraPicture
              camera={measured.camera}
              bumper={bumperOf(camera)}
              lines={cylinders()}
              label="The cylinders of the rule as the screen shows them"
            />
          )}
          {rear && (
            <ScrollX label="What is seen of each cylinder">
              <Objects objects={rear.objects} />
            </ScrollX>
          )}
          <FigureFields figures={camera.figures.eye} />
        </div>
      }
    >
      <dl>
        {verdicts.map(([name, verdict, words]) => (
          <div key={name} className="flex min-h-11 flex-wrap items-center gap-x-4 border-b border-rule">
            <dt className="w-14 font-medium">{name}</dt>
            <dd>
              <Mark tone={SAYS[verdict].tone}>{SAYS[verdict].word}</Mark>
            </dd>
            <dd className="num text-quiet">{words}</dd>
          </div>
        ))}
      </dl>
      <TakeTime camera={camera.id} />
      <Notice tone="none" title="A rule of the United States, 49 CFR 571.111, as we know it">
        <p>
          Where you are, local law and its inspectors decide. Reverse only with the brake on and nobody behind the car.
        </p>
      </Notice>
    </Focus>
  );
}

function worst(all: readonly Verdict[]): Verdict {
  return all.includes("doesNot") ? "doesNot" : all.includes("notShown") ? "notShown" : "meets";
}

type Seen = NonNullable<ShownCamera["rear"]>["objects"];

function fieldWords(objects: Seen): string {
  const missing = objects.filter((o) => o.verdict === "doesNot").map((o) => o.id);
  const unsure = objects.filter((o) => o.verdict === "notShown").map((o) => o.id);
  if (missing.length > 0) return `not seen as asked: ${missing.join(", ")}`;
  return unsure.length > 0 ? `too near to an edge: ${unsure.join(", ")}` : "A to G are seen as asked";
}

function Objects({ objects }: { objects: Seen }) {
  return (
    <table className="num w-full max-w-xl [&_td]:pr-4 [&_th]:pr-4">
      <thead>
        <tr className="text-left font-sans text-sm text-quiet">
          <th className="font-normal">
            <span className="sr-only">Cylinder</span>
          </th>
          <th className="font-normal">Stands</th>
          <th className="font-normal">Seen</th>
          <th className="font-normal">For the eye</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {objects.map((o) => {
          const { x, y } = OBJECTS[o.id];
          return (
            <tr key={o.id} className="border-t border-rule">
              <th className="py-1.5 text-left font-semibold">{o.id}</th>
              <td>
                {y} m {x === 0 ? "middle" : x > 0 ? "left" : "right"}
              </td>
              <td>
                {NEAR.includes(o.id) ? `${Math.round(100 * o.stripM)} cm of 15` : `${Math.round(100 * o.seen)} %`}
              </td>
              <td>{o.arcmin === null ? "not known" : `${o.arcmin.toFixed(1)}'`}</td>
              <td>
                <Mark tone={SAYS[o.verdict].tone}>{SAYS[o.verdict].word}</Mark>
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** By stopwatch, or surer by the frames of a video. */
function TakeTime({ camera }: { camera: string }) {
  const { append, busy } = useAppend();
  const { readOnly } = useJob();
  const begun = useRef<number | null>(null);
  const [running, setRunning] = useState(false);
  const [frames, setFrames] = useState("");
  const [perSecond, setPerSecond] = useState(30);
  const press = () => {
    if (begun.current === null) begun.current = performance.now();
    else {
      const seconds = Math.round(performance.now() - begun.current) / 1000;
      begun.current = null;
      append({
        kind: "prove.reverseTime",
        data: { camera, taken: { by: "stopwatch", seconds: Math.min(60, seconds) } },
      });
    }
    setRunning(begun.current !== null);
  };
  const counted = frames.trim() === "" ? null : Number(frames);
  return (
    <div className="flex flex-wrap items-end gap-x-6 gap-y-3">
      <Button look="next" disabled={busy || readOnly} onClick={press} aria-keyshortcuts="Space">
        {running ? <Icon of={Square} size={18} /> : <Icon of={Play} size={18} />}
        {running ? "The picture is there" : "Reverse is selected now"}
      </Button>
      <label className="block">
        <span className="block text-sm">or frames of a video</span>
        <input
          type="number"
          className="field num w-28!"
          min={0}
          step={1}
          value={frames}
          onChange={(e) => setFrames(e.currentTarget.value)}
        />
      </label>
      <label className="block">
        <span className="block text-sm">frames a second</span>
        <select
          className="field w-auto!"
          value={perSecond}
          onChange={(e) => setPerSecond(Number(e.currentTarget.value))}
        >
          {[24, 25, 30, 50, 60, 120, 240].map((n) => (
            <option key={n}>{n}</option>
          ))}
        </select>
      </label>
      {counted !== null && Number.isInteger(counted) && counted >= 0 && (
        <EntryButton
          body={{ kind: "prove.reverseTime", data: { camera, taken: { by: "frames", frames: counted, perSecond } } }}
        >
          <Icon of={Check} size={18} /> {(counted / perSecond).toFixed(2)} s
        </EntryButton>
      )}
    </div>
  );
}
