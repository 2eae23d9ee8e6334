import { useState } from "react";
import { readScope, ScopeProblem, type ScopeReading } from "~/core/bus/scope";
import { Focus } from "../bench/focus";
import { buttonLook } from "../controls";
import { Notice } from "../marks";

const LINES = { high: "bus high", low: "bus low", difference: "the difference of high and low" } as const;

/** The bit rate of a bus that nobody knows, from a table that a scope has saved. Nothing of it is stored. */
export function FromScope() {
  const [told, setTold] = useState<{ name: string; reading: ScopeReading } | { name: string; problem: string } | null>(
    null,
  );
  async function read(file: File) {
    try {
      setTold({ name: file.name, reading: readScope(await file.text()) });
    } catch (error) {
      if (!(error instanceof ScopeProblem)) throw error;
      setTold({ name: file.name, problem: error.message });
    }
  }
  return (
    <Focus kicker="Of a bus that nobody knows" title="Bit rate from a scope">
      <p>
        One line of the pair against body, 2 ms or more while the bus is awake, saved as a table of time and voltage.
      </p>
      <label className={`${buttonLook("plain")} cursor-pointer focus-within:outline-3 focus-within:outline-accent`}>
        Choose the table (CSV)
        <input
          type="file"
          accept=".csv,.txt"
          className="sr-only"
          onChange={(e) => {
            const file = e.currentTarget.files?.[0];
            e.currentTarget.value = "";
            if (file) void read(file);
          }}
        />
      </label>
      {told && (
        <div className="mt-3">
          {"problem" in told ? (
            <Notice tone="stop" title={`${told.name} gives no bit rate`} live>
              <p>{told.problem}</p>
            </Notice>
          ) : (
            <Told name={told.name} reading={told.reading} />
          )}
        </div>
      )}
    </Focus>
  );
}

function Told({ name, reading }: { name: string; reading: ScopeReading }) {
  const { bitsPerS, usualKbit, edges, restV, drivenV, line } = reading;
  const measured =
    bitsPerS === null ? "" : `${(bitsPerS / 1000).toFixed(1)} kbit/s measured from ${edges} edges of ${name}`;
  return (
    <>
      {bitsPerS === null ? (
        <Notice tone="watch" title="The edges fit no bit rate." live>
          <p>Record with more samples a bit, or see that the probe is on one bus only.</p>
        </Notice>
      ) : usualKbit === null ? (
        <Notice tone="watch" title={measured} live>
          <p>That is none of the usual rates. Measure once more before you set an adapter by it.</p>
        </Notice>
      ) : (
        <Notice tone="good" title={`${usualKbit} kbit/s`} live>
          <p>{measured}.</p>
        </Notice>
      )}
      <p className="num mt-2">
        {restV.toFixed(1)} V at rest, {drivenV.toFixed(1)} V driven:{" "}
        {line
          ? `this is ${LINES[line]}.`
          : "these are not the levels of a high-speed pair (2.5 V at rest; 3.5 or 1.5 V driven)."}
      </p>
    </>
  );
}
