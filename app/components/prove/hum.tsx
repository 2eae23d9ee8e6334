import { wrap } from "comlink";
import { Mic } from "lucide";
import { useState } from "react";
import { toast } from "sonner";
import type { SoundWorker } from "~/app/workers/sound.worker";
import type { GroundLead } from "~/core/log/kinds/prove/hum";
import { HEARD_DB } from "~/core/sound/polarity";
import type { proveView } from "~/core/views/prove";
import { Focus } from "../bench/focus";
import { Button, ScrollX } from "../controls";
import { useAppend, useJob } from "../entry-form";
import { Icon } from "../icon";
import { listen } from "./listen";

type Measured = ReturnType<typeof proveView>["hum"];

const LISTEN_S = 4;

/** Hum by microphone, as it is and with a ground lead added: what the lead does, in decibels. */
export function HumFocus({ hum, after }: { hum: Measured; after: string | undefined }) {
  const { append } = useAppend();
  const { readOnly } = useJob();
  const [hearing, setHearing] = useState<GroundLead | null>(null);
  const hear = async (ground: GroundLead) => {
    setHearing(ground);
    const own = new Worker(new URL("../../workers/sound.worker.ts", import.meta.url), { type: "module" });
    try {
      const { samples, rate } = await listen(LISTEN_S);
      const { hz, levels, totalDb } = await wrap<SoundWorker>(own).hum(samples, rate);
      const tenth = (v: number) => Math.round(10 * v) / 10;
      append({ kind: "prove.hum", data: { ground, hz, levels: levels.map(tenth), totalDb: tenth(totalDb) } });
    } catch (error) {
      toast.error(error instanceof Error ? error.message : String(error), { duration: 12_000 });
    }
    own.terminate();
    setHearing(null);
  };
  const { gain } = hum;
  const { without, with: grounded } = hum.takes;
  return (
    <Focus
      kicker="Hum"
      title={gain === null ? "Measure the hum as it is, then with a ground lead" : titleOf(gain)}
      after={after}
      actions={(["without", "with"] as const).map((ground) => (
        <Button
          key={ground}
          look={gain === null && (ground === "with") === (without !== undefined) ? "next" : "plain"}
          disabled={hearing !== null || readOnly}
          onClick={() => void hear(ground)}
        >
          <Icon of={Mic} size={18} />
          {hearing === ground ? `Hearing ${LISTEN_S} s ...` : ground === "with" ? "With a ground lead" : "As it is"}
        </Button>
      ))}
      picture={(without ?? grounded) && <Levels takes={hum.takes} />}
    >
      <p>
        Nothing playing, volume as usual, engine off, microphone a hand before a loudspeaker. For the second take lead a
        wire from the case of the module to bare metal of the car.
      </p>
    </Focus>
  );
}

function titleOf(gain: number): string {
  if (Math.abs(gain) < HEARD_DB) return "The ground lead changes nothing that is heard: look for the hum elsewhere";
  return gain > 0
    ? `${gain.toFixed(0)} dB less hum with the ground lead`
    : `${(-gain).toFixed(0)} dB more hum with the ground lead: a ground loop`;
}

function Levels({ takes: measured }: Pick<Measured, "takes">) {
  const takes = (["without", "with"] as const).flatMap((ground) => {
    const take = measured[ground];
    return take ? [{ ground, ...take }] : [];
  });
  const hz = takes[0]?.hz ?? 50;
  return (
    <ScrollX label="Levels of the hum">
      <table className="num [&_td]:pr-5 [&_th]:pr-5">
        <caption className="mb-1 text-left font-sans text-sm text-quiet">dBFS at the multiples of the mains</caption>
        <thead>
          <tr className="text-left text-sm text-quiet">
            <th className="font-normal">Hz</th>
            {[1, 2, 3, 4, 5, 6].map((n) => (
              <th key={n} className="font-normal">
                {n * hz}
              </th>
            ))}
            <th className="font-sans font-normal">together</th>
          </tr>
        </thead>
        <tbody>
          {takes.map((t) => (
            <tr key={t.ground} className="h-10 border-t border-rule">
              <th className="whitespace-nowrap text-left font-sans font-normal">
                {t.ground === "with" ? "with ground lead" : "as it is"}
              </th>
              {t.levels.map((level, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: the place is the multiple
                <td key={i}>{level.toFixed(0)}</td>
              ))}
              <td className="font-semibold">{t.totalDb.toFixed(0)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </ScrollX>
  );
}
