import { wrap } from "comlink";
import { Mic, Play, Square } from "lucide";
import { useState } from "react";
import { toast } from "sonner";
import type { SoundWorker } from "~/app/workers/sound.worker";
import { upperFirst } from "~/core/model/labels";
import { CORNER_NAMES, CORNERS, type Corner } from "~/core/prove/corners";
import type { Fuller, Pair, PolarityOutcome } from "~/core/sound/polarity";
import type { proveView } from "~/core/views/prove";
import { Focus } from "../bench/focus";
import { Button } from "../controls";
import { EntryButton, useAppend, useJob } from "../entry-form";
import { Icon } from "../icon";
import { Mark } from "../marks";
import { listen } from "./listen";
import { useSound } from "./use-sound";

type Walk = NonNullable<ReturnType<typeof proveView>["walk"]>;

const LISTEN_S = 3;
const ANSWERS: [Fuller, string][] = [
  ["same", "Fuller as A"],
  ["opposite", "Fuller as B"],
  ["alike", "No difference"],
];

/** Which way loudspeakers are connected: a pair played the same way and turned round, or the pulse by microphone. */
export function Polarity({ walk, after }: { walk: Walk; after: string | undefined }) {
  const { polarity } = walk;
  const [again, setAgain] = useState<Pair | null>(null);
  const pair = again ?? (polarity.kind === "open" ? polarity.left[0] : undefined);
  return (
    <Focus
      kicker="Polarity of the loudspeakers"
      marks={
        polarity.kind === "right" ? (
          <Mark tone="good">All the same way</Mark>
        ) : polarity.kind === "reversed" ? (
          <Mark tone="stop">Turned round</Mark>
        ) : (
          polarity.kind === "unclear" && <Mark tone="watch">Not clear</Mark>
        )
      }
      title={
        pair
          ? `Fader ${pair === "front" ? "to the front" : "to the rear"}, balance in the middle: which sounds fuller?`
          : titleOf(polarity)
      }
      after={after}
      actions={
        pair ? (
          <>
            <AB />
            {ANSWERS.map(([fuller, word], i) => (
              <span key={fuller} className="contents" onClickCapture={() => setAgain(null)}>
                <EntryButton
                  body={{ kind: "prove.polarity", data: { by: "ear", pair, fuller } }}
                  shortcut={String(i + 1)}
                >
                  {word}
                </EntryButton>
              </span>
            ))}
          </>
        ) : (
          <>
            <Button onClick={() => setAgain("front")}>Hear the front pair again</Button>
            <Button onClick={() => setAgain("rear")}>Hear the rear pair again</Button>
          </>
        )
      }
      picture={<ByMicrophone walk={walk} />}
    >
      {pair ? (
        <p>
          This device plays through the car: over Bluetooth, cable, or from the stick. Sit in the middle, bass up a
          little, volume low first. Turned round it sounds thin and comes from nowhere.
        </p>
      ) : (
        polarity.kind === "reversed" && (
          <p>
            {polarity.either && "By ear nobody can tell which of the two; turning either cures it. "}
            The balance and fader walk shows the contacts to move.
          </p>
        )
      )}
    </Focus>
  );
}

function titleOf(polarity: PolarityOutcome): string {
  if (polarity.kind === "right") return "Every loudspeaker moves the same way";
  if (polarity.kind === "reversed")
    return `${upperFirst(polarity.corners.map((c) => CORNER_NAMES[c]).join(", "))}: the two wires are exchanged`;
  return `Not told ${polarity.kind === "unclear" ? `at ${CORNER_NAMES[polarity.where as Corner] ?? `the ${polarity.where} pair`}` : ""}: hear it again, louder or in a quieter place`;
}

/** Both ways of one noise, to go to and fro between. */
function AB() {
  const { playing, play, stop } = useSound();
  return (
    <>
      {(
        [
          ["pink", "A: the same way"],
          ["opposite", "B: right side turned round"],
        ] as const
      ).map(([id, word], i) => (
        <Button
          key={id}
          look={playing === null && i === 0 ? "next" : "plain"}
          aria-pressed={playing === id}
          onClick={() => (playing === id ? stop() : void play(id))}
        >
          {playing === id ? <Icon of={Square} size={18} /> : <Icon of={Play} size={18} />} {word}
        </Button>
      ))}
    </>
  );
}

/** The pulse is heard at each corner; it tells which of a pair is turned round. */
function ByMicrophone({ walk }: { walk: Walk }) {
  const { append } = useAppend();
  const { readOnly } = useJob();
  const [hearing, setHearing] = useState<Corner | null>(null);
  const hear = async (corner: Corner) => {
    setHearing(corner);
    const own = new Worker(new URL("../../workers/sound.worker.ts", import.meta.url), { type: "module" });
    try {
      const { samples, rate } = await listen(LISTEN_S);
      const { sign, likeness } = await wrap<SoundWorker>(own).pulse(samples, rate);
      append({
        kind: "prove.polarity",
        data: { by: "microphone", corner, sign, likeness: Math.round(1000 * likeness) / 1000 },
      });
    } catch (error) {
      toast.error(error instanceof Error ? error.message : String(error), { duration: 12_000 });
    }
    own.terminate();
    setHearing(null);
  };
  const { microphone } = walk;
  return (
    <div className="max-w-xl border-t border-rule pt-4">
      <h3 className="font-semibold">Or by the microphone of this device</h3>
      <p className="mt-1">
        Play the pulse from a stick or another phone. Balance and fader at one corner, microphone a hand before its
        loudspeaker, then press it here.
      </p>
      <ul className="mt-3 grid gap-x-6 sm:grid-cols-2">
        {CORNERS.map((c) => {
          const sign = microphone[c];
          return (
            <li key={c} className="flex min-h-14 items-center justify-between gap-3 border-b border-rule">
              <span>
                {upperFirst(CORNER_NAMES[c])}
                {sign !== undefined && (
                  <span className="block text-sm text-quiet">
                    {sign === 0 ? "no pulse surely heard" : sign > 0 ? "steep side first" : "slow side first"}
                  </span>
                )}
              </span>
              <Button
                disabled={hearing !== null || readOnly}
                onClick={() => void hear(c)}
                aria-label={`Hear ${CORNER_NAMES[c]} by microphone`}
              >
                <Icon of={Mic} size={18} /> {hearing === c ? `Hearing ${LISTEN_S} s ...` : "Hear"}
              </Button>
            </li>
          );
        })}
      </ul>
    </div>
  );
}
