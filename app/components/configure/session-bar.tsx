import { Cable, CarFront, Send, Square } from "lucide";
import { useState } from "react";
import { useParams } from "react-router";
import { sayToUnits, serialPorts } from "~/app/lib/car-adapters";
import { useCarSession } from "~/app/lib/use-car-session";
import { SLCAN_SPEEDS, type SlcanSpeed } from "~/core/diagnostics/slcan";
import type { UnitFault } from "~/sim/control-units";
import { Button } from "../controls";
import { useAppend, useJob } from "../entry-form";
import { Icon } from "../icon";
import { Mark, Notice } from "../marks";

/** The way to the car, whether anything may be sent, and what runs: above everything that talks to control units. */
export function SessionBar({ standIn }: { standIn: boolean }) {
  const session = useCarSession();
  const { way, sending, running, ended } = session;
  return (
    <div className="mt-3 space-y-2 border-rule border-y py-1">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
        <span className="flex min-h-11 items-center gap-2">
          {way === "standIn" ? <Icon of={CarFront} size={18} /> : <Icon of={Cable} size={18} />}
          {way === null
            ? "Car not connected"
            : way === "standIn"
              ? "Stand-in car"
              : `Adapter at ${session.kbit} kbit/s`}
        </span>
        {way !== null && (
          <Mark tone={sending ? "watch" : "none"}>
            {sending ? "Sending allowed in this session" : "Listening only"}
          </Mark>
        )}
        {sending && (
          <Button look="quiet" className="px-1!" onClick={() => session.setSending(false)}>
            Listen only
          </Button>
        )}
        {way === null && <Connect standIn={standIn} />}
        {way === "adapter" && <Supply />}
        {way === "standIn" && <StandInState />}
      </div>
      {running && (
        <div className="flex flex-wrap items-center gap-3" role="status">
          <progress className="h-2 flex-1" max={running.of} value={running.done} aria-label="Progress" />
          <span>{running.say} ...</span>
          <Button onClick={session.cancel}>
            <Icon of={Square} size={16} /> Stop
          </Button>
        </div>
      )}
      {!running && ended && (
        <Notice tone={ended.tone} title={ended.title} live>
          {ended.text && <p>{ended.text}</p>}
        </Notice>
      )}
    </div>
  );
}

/** Nothing goes to the car before the person has turned it on; this is then the next thing to press. */
export function AllowSending() {
  const session = useCarSession();
  const { car } = useJob();
  const { append } = useAppend();
  if (session.way === null || session.sending) return null;
  const isOn = car.battery === "connected" && car.keyKnown && (car.key === "on" || car.key === "running");
  const allow = () => {
    if (!isOn)
      append({
        kind: "strip.stands",
        data: { sets: { key: "on", ...(car.battery === "isolated" ? { battery: "connected" } : {}) } },
      });
    session.setSending(true);
  };
  return (
    <Button look="next" onClick={allow} aria-keyshortcuts="Space">
      <Icon of={Send} size={18} /> Allow sending to the car in this session{isOn ? "" : ": ignition is on"}
    </Button>
  );
}

function Connect({ standIn }: { standIn: boolean }) {
  const session = useCarSession();
  const [speed, setSpeed] = useState<SlcanSpeed>(session.kbit);
  if (standIn)
    return (
      <Button onClick={() => session.open("standIn")}>
        <Icon of={CarFront} size={18} /> Stand-in car
      </Button>
    );
  return (
    <span className="flex flex-wrap items-center gap-2">
      <Button
        onClick={() => session.open("adapter", speed)}
        disabled={typeof navigator !== "undefined" && !serialPorts()}
      >
        <Icon of={Cable} size={18} /> Connect an adapter
      </Button>
      <select
        aria-label="Speed of the bus"
        className="field w-auto"
        value={speed}
        onChange={(e) => setSpeed(Number(e.target.value) as SlcanSpeed)}
      >
        {SLCAN_SPEEDS.map((s) => (
          <option key={s} value={s}>
            {s} kbit/s
          </option>
        ))}
      </select>
    </span>
  );
}

/** Serial adapters do not measure: the supply is read from a meter and entered before anything is written. */
function Supply() {
  const { entered, setEntered } = useCarSession();
  return (
    <label className="flex min-h-11 items-center gap-2">
      Supply at the battery, V
      <input
        type="text"
        inputMode="decimal"
        className="field num w-20"
        defaultValue={entered ?? ""}
        onChange={(e) => {
          const volts = Number(e.target.value.replace(",", "."));
          setEntered(e.target.value.trim() !== "" && volts > 0 && volts < 30 ? volts : null);
        }}
      />
    </label>
  );
}

const FAULTS: Readonly<Record<UnitFault, string>> = {
  refuses: "refuses to be written",
  slow: "takes long to write",
  losesSupply: "loses its supply while it is written",
  wrongLength: "answers with a byte too few",
  rejectsChecksum: "takes no check byte",
};

/** For practice: the supply and what goes wrong. */
function StandInState() {
  const { job = "" } = useParams();
  const [volts, setVolts] = useState(12.7);
  const [fault, setFault] = useState<UnitFault | "">("");
  const say = (v: number, f: UnitFault | "") =>
    sayToUnits(job, { do: "set", volts: v, fault: f === "" ? null : f }).catch(() => undefined);
  return (
    <details className="open:basis-full sm:ml-auto">
      <summary className="min-h-11 cursor-pointer py-2.5 text-quiet">Practise with a fault</summary>
      <div className="flex flex-wrap items-end gap-4 pb-2">
        <label className="block">
          Supply of the stand-in car, V
          <input
            type="number"
            min={9}
            max={15}
            step={0.1}
            value={volts}
            onChange={(e) => {
              setVolts(e.target.valueAsNumber);
              if (e.target.valueAsNumber >= 6) void say(e.target.valueAsNumber, fault);
            }}
            className="field block w-28"
          />
        </label>
        <label className="block">
          What goes wrong
          <select
            value={fault}
            onChange={(e) => {
              const chosen = e.target.value as UnitFault | "";
              setFault(chosen);
              void say(volts, chosen);
            }}
            className="field block"
          >
            <option value="">nothing</option>
            {Object.entries(FAULTS).map(([id, words]) => (
              <option key={id} value={id}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <Button onClick={() => void sayToUnits(job, { do: "restart" }).catch(() => undefined)}>
          Ignition off and on
        </Button>
      </div>
    </details>
  );
}
