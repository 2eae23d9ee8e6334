import { useState } from "react";
import type { Draw, Load } from "~/core/power/budget";
import { crankDip, daysToDoubtfulStart, SUSPICIOUS_SLEEP_MA } from "~/core/power/budget";
import type { Candidate } from "~/core/power/feed";
import { fuseFor, openingTimeS } from "~/core/power/fuse";
import { dropV, smallestWire } from "~/core/power/wire";
import { Focus } from "../bench/focus";
import { Field, Fold } from "../controls";
import { Mark } from "../marks";

/** Usual figures of a middling battery; common practice. */
const BATTERY = { openV: 12.6, innerOhm: 0.006, crankA: 250 };

const FIELDS = [
  { id: "lengthM", label: "Feed wire, m", start: "1,2", most: 20 },
  { id: "dropV", label: "Drop allowed, V", start: "0,3", most: 3 },
  { id: "tempC", label: "Hottest place, °C", start: "60", most: 120 },
  { id: "carMa", label: "Car asleep, mA", start: "20", most: 5000 },
  { id: "ah", label: "Battery, Ah", start: "", most: 400 },
  { id: "charge", label: "Charge, %", start: "75", most: 100 },
  { id: "startNeeds", label: "A start needs, %", start: "50", most: 100 },
] as const;
type FieldId = (typeof FIELDS)[number]["id"];

/** Wire, fuse, days of standing and the start of the engine, computed while the figures are typed. */
export function Budget({
  draws,
  load,
  batteryAh,
  taken,
  ground,
}: {
  draws: Draw[];
  load: Load;
  batteryAh: number;
  taken: Candidate | null;
  ground: { place: string; lengthM: number } | null;
}) {
  const [typed, setTyped] = useState<Record<FieldId, string>>(
    Object.fromEntries(FIELDS.map((f) => [f.id, f.id === "ah" ? String(batteryAh) : f.start])) as Record<
      FieldId,
      string
    >,
  );
  const value = (id: FieldId) => Number(typed[id].replace(",", "."));
  const wrong = (id: FieldId, most: number) => !(value(id) > 0 && value(id) <= most);
  const ok = FIELDS.every((f) => !wrong(f.id, f.most)) && load.steadyA > 0;
  return (
    <Focus kicker={`${load.sleepMa} mA asleep`} title="Load, wire, battery">
      {draws.length === 0 ? (
        <p className="text-quiet">The kit's profile does not say what its parts draw.</p>
      ) : (
        <ul className="mb-3">
          {draws.map((d) => (
            <li key={d.id} className="flex flex-wrap justify-between gap-x-4 border-b border-rule py-1">
              {d.name}
              <span className="num text-quiet">
                {d.onA} A, start {d.peakA} A, asleep {d.sleepMa} mA
              </span>
            </li>
          ))}
        </ul>
      )}
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-3">
        {FIELDS.map((f) => (
          <Field key={f.id} label={f.label} {...(wrong(f.id, f.most) ? { errors: [`Above 0, up to ${f.most}.`] } : {})}>
            {(ids) => (
              <input
                {...ids}
                className="field num mt-1"
                inputMode="decimal"
                value={typed[f.id]}
                onChange={(e) => setTyped({ ...typed, [f.id]: e.currentTarget.value })}
              />
            )}
          </Field>
        ))}
      </div>
      {ok && <Results draws={draws} load={load} value={value} taken={taken} ground={ground} />}
    </Focus>
  );
}

/** A window of times, to two figures. */
function seconds(window: { least: number; most: number } | null): string {
  return window ? `${Number(window.least.toPrecision(2))} to ${Number(window.most.toPrecision(2))} s` : "no time";
}

function Results({
  draws,
  load,
  value,
  taken,
  ground,
}: {
  draws: Draw[];
  load: Load;
  value(id: FieldId): number;
  taken: Candidate | null;
  ground: { place: string; lengthM: number } | null;
}) {
  const fuseA = taken?.tap?.addedA ?? fuseFor(load.steadyA, load.peakA) ?? 30;
  const run = { currentA: load.steadyA, lengthM: value("lengthM"), returnWire: false, tempC: value("tempC") };
  const wire = smallestWire(run, value("dropV"), fuseA);
  const asleep = value("carMa") + load.sleepMa;
  const battery = { capacityAh: value("ah"), charge: value("charge") / 100, startNeeds: value("startNeeds") / 100 };
  const days = daysToDoubtfulStart(battery, asleep);
  const dip = wire && crankDip(draws, { ...run, areaMm2: wire.size.areaMm2 }, BATTERY);
  return (
    <dl className="mt-4 grid grid-cols-[8rem_minmax(0,1fr)] gap-x-3 gap-y-2">
      <dt className="text-quiet">Fuse</dt>
      <dd>
        <span className="num font-medium">{fuseA} A</span>, behind it the kit alone.{" "}
        {openingTimeS(fuseA, load.peakA) === null
          ? `It holds the start of ${load.peakA.toFixed(1)} A; `
          : `It rides over the start of ${load.peakA.toFixed(1)} A; `}
        at twice its rating it opens in <span className="num">{seconds(openingTimeS(fuseA, 2 * fuseA))}</span>
      </dd>
      <dt className="text-quiet">Wire</dt>
      <dd>
        {wire ? (
          <>
            <span className="num font-medium">{wire.size.areaMm2} mm²</span> (gauge{" "}
            <span className="num">{wire.gauge}</span>), drop <span className="num">{wire.dropV.toFixed(2)} V</span>, at
            the start{" "}
            <span className="num">{dropV({ ...run, currentA: load.peakA }, wire.size.areaMm2).toFixed(2)} V</span>
            {wire.because !== "smallest" && ` – the ${wire.because} asks for it`}
          </>
        ) : (
          "None in use is thick enough: shorten the run or allow more drop."
        )}
      </dd>
      <dt className="text-quiet">Ground</dt>
      <dd>
        {ground
          ? `Bare metal at the ${ground.place}, ${ground.lengthM.toFixed(2)} m from the fuse panel: one point, tight, scraped clean.`
          : "Bare metal, one point, tight; the car's profile does not say where metal is."}{" "}
        An extra ground cures hum.
      </dd>
      <dt className="text-quiet">Asleep</dt>
      <dd>
        <span className="num font-medium">{asleep.toFixed(0)} mA</span>, a start is doubtful after{" "}
        <span className="num">{Number.isFinite(days) ? Math.floor(days) : "∞"}</span> days{" "}
        {asleep > SUSPICIOUS_SLEEP_MA && <Mark tone="watch">Over {SUSPICIOUS_SLEEP_MA} mA is suspicious</Mark>}
      </dd>
      <dt className="text-quiet">Engine start</dt>
      <dd>
        {dip && (
          <>
            about <span className="num font-medium">{dip.voltageV.toFixed(1)} V</span> at the module:{" "}
            {dip.restarts.length > 0
              ? `${dip.restarts.map((r) => r.name).join(", ")} will restart; the session drops and must come back.`
              : "it holds."}
          </>
        )}
      </dd>
      <dt className="text-quiet">Why</dt>
      <dd>
        <Fold quiet line="What these figures rest on">
          <p className="text-sm">
            Copper 1/58 Ω mm²/m, 0.393 % a kelvin (IEC 60028). Days: charge above what a start needs over the sleep
            current; half is common practice, in frost a start needs more and the battery gives less. Start: 12.6 V, 6
            mΩ, 250 A (common practice).
          </p>
        </Fold>
      </dd>
    </dl>
  );
}
