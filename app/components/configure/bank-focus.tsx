import { format, parseISO } from "date-fns";
import { useSeconds } from "~/app/lib/use-seconds";
import { POWER_OUT_S } from "~/core/log/kinds/configure/power-cycle";
import { allOf } from "~/core/model/labels";
import type { configureView } from "~/core/views/configure";
import { Focus } from "../bench/focus";
import { ScrollX } from "../controls";
import { EntryButton, useJob } from "../entry-form";
import { Mark, Notice } from "../marks";
import { BankDrawing } from "./bank-drawing";
import { MakerTable } from "./maker-table";
import { SwitchBankForm } from "./switch-bank-form";

export type Bank = NonNullable<ReturnType<typeof configureView>["bank"]>;

/** The switch bank: as it must stand above, as it stands below, so that a wrong lever is seen. */
export function BankFocus({ bank, solution, givenUp, entered, differences, suspects, history }: Bank) {
  return (
    <Focus
      kicker={bank.label}
      marks={<Mark tone={entered ? "none" : "watch"}>{entered ? "Entered" : "Not entered yet"}</Mark>}
      title="Switch bank"
    >
      {solution.missing.length > 0 && (
        <Notice tone="watch" title={`No position of the bank gives: ${solution.missing.join(", ")}.`} />
      )}
      {givenUp.length > 0 && <GivenUp functions={givenUp} />}
      {suspects && <Suspects {...suspects} />}
      {solution.settings ? (
        <section aria-label="As it must stand">
          <p className="font-medium">As it must stand</p>
          <BankDrawing
            values={solution.switches.flatMap((s) => s.value ?? [])}
            on={bank.on}
            title="Switch bank as it must stand"
          />
          <p className="text-sm text-quiet">Module unplugged while you set it.</p>
        </section>
      ) : (
        <p className="text-watch">How it must stand is not known before it is chosen what the car is to do without.</p>
      )}
      <section aria-label="As it stands" className="pt-2">
        <p className="mb-1 font-medium">As it stands</p>
        <SwitchBankForm key={JSON.stringify(entered)} bank={bank} entered={entered} must={solution.settings} />
      </section>
      <MakerTable bank={bank} solution={solution} />
      {history.length > 1 && <BankHistory history={history} />}
      {entered && solution.settings && differences.length === 0 && (
        <Notice tone="good" title="Every switch stands as it must." />
      )}
      {differences.map((d) => (
        <Notice key={d.number} tone="stop" title={`Switch ${d.number} stands ${d.is}, it must be ${d.should}.`}>
          <p>
            {d.breaks.length > 0
              ? `Breaks: ${d.breaks.join(", ")}.`
              : "No function depends on it; leave it as delivered."}
          </p>
        </Notice>
      ))}
    </Focus>
  );
}

/** How it stood before, and who changed what. */
function BankHistory({ history }: Pick<Bank, "history">) {
  return (
    <details className="mt-2">
      <summary className="min-h-11 cursor-pointer py-2.5">
        History <span className="num text-quiet">{history.length}</span>
      </summary>
      <ol>
        {history.map((h) => (
          <li key={h.id} className="flex flex-wrap items-center gap-x-4 border-t border-rule py-1.5">
            <span className="num">{h.values.map((v, i) => `${i + 1} ${v}`).join("  ")}</span>
            <span className="text-sm text-quiet">
              {h.by}, {format(parseISO(h.at), "d MMM, HH:mm")}
              {h.changed.length > 0 && `, changed: ${h.changed.join(", ")}`}
            </span>
          </li>
        ))}
      </ol>
    </details>
  );
}

/** Whether one lever alone can be behind what the tests have shown. */
function Suspects({ failing, suspects, asEntered }: NonNullable<Bank["suspects"]>) {
  if (asEntered)
    return (
      <Notice
        tone="watch"
        title={`With the switches as entered it is to be expected that this fails: ${failing.join(", ")}.`}
      />
    );
  if (suspects.length === 0)
    return (
      <Notice tone="none" title="No single switch explains what fails.">
        <p>The cause is elsewhere; Prove looks for it.</p>
      </Notice>
    );
  return (
    <Notice
      tone="stop"
      title={`One switch alone would explain everything seen: ${suspects.map((s) => `switch ${s.number} ${s.other}`).join(", or ")}.`}
    >
      <p>Look whether it stands as entered ({suspects.map((s) => `${s.number} ${s.entered}`).join(", ")}).</p>
    </Notice>
  );
}

/** What was given up, with the way back. */
function GivenUp({ functions }: { functions: readonly string[] }) {
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-2 border-l-4 border-rule pl-3">
      <p>
        This car does without: <span className="font-medium">{functions.join(", ")}</span>
      </p>
      <EntryButton look="quiet" body={{ kind: "configure.giveUp", data: { functions: [] } }}>
        Choose again
      </EntryButton>
    </div>
  );
}

/** Functions that cannot be had together: a person says which the car is to do without; until then nothing is drawn. */
export function ConflictFocus({ conflict: ways, clash }: Pick<Bank["solution"], "conflict" | "clash">) {
  return (
    <Focus
      kicker="Switch bank"
      title="Choose what this car is to do without"
      actions={ways.map((way, i) => (
        <EntryButton
          key={way.givesUp.map((f) => f.id).join()}
          body={{ kind: "configure.giveUp", data: { functions: way.givesUp.map((f) => f.id) } }}
          shortcut={String(i + 1)}
        >
          Do without: {way.givesUp.map((f) => f.name).join(" and ")}
        </EntryButton>
      ))}
    >
      <p>
        <span className="font-medium">{allOf(clash)}</span>
        {` cannot be had together: no position of the switches gives ${clash.length === 2 ? "both" : "all of them"}. `}
        {ways.length === 1 ? "Tell the customer, then say so here." : "Ask the customer, then choose."}
      </p>
    </Focus>
  );
}

export function PowerCycleFocus({ entered, solution, differences, powerCycled, powerOut, noPower }: Bank) {
  const ready = entered !== null && solution.settings !== null && differences.length === 0;
  const { next } = useJob();
  const out = useSeconds(powerOut);
  const look = ready && next.at === "power-cycle" ? "next" : "plain";
  const press = (step: "out" | "in") => ({ kind: "configure.powerCycle" as const, data: { step } });
  return (
    <Focus
      kicker="The module reads its switches at power-up only"
      marks={
        powerOut === null &&
        powerCycled && (
          <Mark tone="good">{noPower ? "It starts with the switches as set" : "Done after the last change"}</Mark>
        )
      }
      title="Power cycle of the module"
      actions={
        powerOut !== null ? (
          <EntryButton body={press("in")} look={look} disabled={out === null || out < POWER_OUT_S} shortcut="Space">
            Plugged in again
          </EntryButton>
        ) : (
          !powerCycled && (
            <>
              <EntryButton body={press("out")} look={look} disabled={!entered || noPower !== null} shortcut="Space">
                The plug is out
              </EntryButton>
              <EntryButton body={press("in")} disabled={!entered || noPower !== null}>
                It was out for {POWER_OUT_S} s and is in again
              </EntryButton>
            </>
          )
        )
      }
    >
      {!powerCycled && powerOut === null && noPower && (
        <p className="text-watch">There is no power to take. {noPower}</p>
      )}
      {!powerCycled && !entered && <p className="text-watch">Set the switches first.</p>}
      {powerOut !== null && out !== null && (
        <p className="num text-4xl" role="timer">
          {Math.max(0, Math.ceil(POWER_OUT_S - out))} s
        </p>
      )}
      <ol className="list-decimal space-y-1 pl-6 text-lg">
        <li>Pull the main plug of the module.</li>
        <li>Wait ten seconds.</li>
        <li>Plug it in again until it clicks.</li>
      </ol>
    </Focus>
  );
}

export function EffectsFocus({ solution }: Bank) {
  return (
    <Focus
      kicker={solution.settings ? `Found by trying ${solution.tried} positions` : "Not known yet"}
      title="What each switch does on this car"
      picture={
        <ScrollX label="Switches and what they do">
          <table className="w-full min-w-[30rem]">
            <thead>
              <tr className="border-b border-strong text-left text-sm">
                <th scope="col" className="py-2 pr-4 font-medium">
                  Switch
                </th>
                <th scope="col" className="py-2 pr-4 font-medium">
                  Must be
                </th>
                <th scope="col" className="py-2 pr-4 font-medium">
                  Means
                </th>
                <th scope="col" className="py-2 font-medium">
                  The other way it breaks
                </th>
              </tr>
            </thead>
            <tbody>
              {solution.switches.map((s) => (
                <tr key={s.setting} className="border-b border-rule align-top">
                  <td className="num py-2 pr-4 text-lg">{s.number}</td>
                  <td className="num py-2 pr-4 font-medium">{s.value ?? "not known"}</td>
                  <td className="py-2 pr-4">{s.label}</td>
                  <td className="py-2 text-quiet">
                    {s.value === null
                      ? "not known before it is chosen what the car is to do without"
                      : s.breaks.length > 0
                        ? s.breaks.join(", ")
                        : "nothing on this car; leave as delivered"}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </ScrollX>
      }
    />
  );
}
