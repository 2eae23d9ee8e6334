import { useOutletContext } from "react-router";
import { BankDrawing } from "~/app/components/configure/bank-drawing";
import { SettingsList } from "~/app/components/configure/settings-list";
import { SwitchBankForm } from "~/app/components/configure/switch-bank-form";
import { ScrollX, Section } from "~/app/components/controls";
import { EntryButton } from "~/app/components/entry-form";
import { Mark, Notice } from "~/app/components/marks";
import { jobOf } from "~/app/server/jobs.server";
import { configureView } from "~/core/views/configure";
import type { Route } from "./+types/configure";
import type { JobContext } from "./layout";

export async function loader({ context }: Route.LoaderArgs) {
  const { job } = await jobOf(context).load();
  return configureView(job);
}

export default function Configure({ loaderData }: Route.ComponentProps) {
  const { sets, bank } = loaderData;
  const { kitChosen } = useOutletContext<JobContext>();
  // Without a kit it is not known what has to be set; the layout says so.
  if (!kitChosen) return null;
  if (!bank && sets.length === 0)
    return <Notice tone="good" title="Nothing to set: this kit has neither a switch bank nor settings." />;
  return (
    <>
      <SettingsList sets={sets} />
      {bank && <SwitchBankPage {...bank} />}
    </>
  );
}

type Bank = NonNullable<Route.ComponentProps["loaderData"]["bank"]>;

/** Functions that cannot be had together: a person says which the car is to do without; until then nothing is drawn. */
function WaysOut({ ways }: { ways: Bank["solution"]["conflict"] }) {
  return (
    <div className="mb-4 border-l-4 border-watch bg-watch-ground p-3">
      <p className="font-medium">
        {ways.length === 1
          ? "One function cannot be had beside what this car must keep. Tell the customer, then say so here:"
          : "Not everything can be had together. Ask the customer, then choose:"}
      </p>
      <ul className="mt-2 space-y-2">
        {ways.map((way) => (
          <li key={way.givesUp.map((f) => f.id).join()}>
            <EntryButton body={{ kind: "configure.giveUp", data: { functions: way.givesUp.map((f) => f.id) } }}>
              Do without: {way.givesUp.map((f) => f.name).join(" and ")}
            </EntryButton>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** What was given up, with the way back. */
function GivenUp({ functions }: { functions: readonly string[] }) {
  return (
    <div className="mb-4 flex flex-wrap items-center gap-x-4 gap-y-2 border-l-4 border-rule pl-3">
      <p>
        This car does without: <span className="font-medium">{functions.join(", ")}</span>
      </p>
      <EntryButton look="quiet" body={{ kind: "configure.giveUp", data: { functions: [] } }}>
        Choose again
      </EntryButton>
    </div>
  );
}

function SwitchBankPage({ bank, solution, givenUp, entered, differences, powerCycled }: Bank) {
  return (
    <>
      {solution.missing.length > 0 && (
        <Notice tone="watch" title={`No position of the bank gives: ${solution.missing.join(", ")}.`} />
      )}
      <div className="grid grid-cols-[minmax(0,1fr)] gap-x-10 lg:grid-cols-2">
        <Section
          title="As it must stand"
          id="must"
          aside={solution.settings ? `Found by trying ${solution.tried} positions` : "Not known yet"}
        >
          {givenUp.length > 0 && <GivenUp functions={givenUp} />}
          {solution.conflict.length > 0 && <WaysOut ways={solution.conflict} />}
          {solution.settings && (
            <BankDrawing
              values={solution.switches.flatMap((s) => s.value ?? [])}
              on={bank.on}
              title="Switch bank as it must stand"
            />
          )}
          <p className="mt-2 text-quiet">
            {bank.label}.{" "}
            {solution.settings ? "Module unplugged while you set it." : "How it must stand is not known before."}
          </p>
        </Section>
        <Section title="As it stands" id="stands" aside={entered ? "Entered" : "Not entered yet"}>
          <SwitchBankForm key={JSON.stringify(entered)} bank={bank} entered={entered} must={solution.settings} />
          {entered && solution.settings && differences.length === 0 && (
            <div className="mt-3">
              <Notice tone="good" title="Every switch stands as it must." />
            </div>
          )}
          {differences.map((d) => (
            <div key={d.place} className="mt-3">
              <Notice tone="stop" title={`Switch ${d.place} stands ${d.is}, it must be ${d.should}.`}>
                <p>
                  {d.breaks.length > 0
                    ? `Breaks: ${d.breaks.join(", ")}.`
                    : "No function depends on it; leave it as delivered."}
                </p>
              </Notice>
            </div>
          ))}
        </Section>
      </div>
      <Section
        title="Power cycle"
        id="power"
        aside={powerCycled ? "Done after the last change" : "Not done since the last change"}
      >
        <p className="mb-3 max-w-prose">
          The module reads its switches at power-up only. Pull its main plug, wait ten seconds, plug it in again.
        </p>
        {powerCycled ? (
          <Mark tone="good">Module was without power after the last change</Mark>
        ) : (
          <EntryButton
            body={{ kind: "configure.powerCycle", data: {} }}
            look={entered && solution.settings && differences.length === 0 ? "next" : "plain"}
            disabled={!entered}
          >
            Power was taken away once
          </EntryButton>
        )}
      </Section>
      <Section title="What each switch does on this car" id="effects">
        <ScrollX label="Switches and what they do">
          <table className="w-full min-w-[34rem]">
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
                  <td className="num py-2 pr-4 text-lg">{s.place}</td>
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
      </Section>
    </>
  );
}
