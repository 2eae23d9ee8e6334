import { Document, Page, renderToBuffer, Text, View } from "@react-pdf/renderer";
import { format } from "date-fns";
import type { JobPlan } from "~/core/job/plan";
import { handoverReport, type ReportLine } from "~/core/job/report";
import type { JobState } from "~/core/log/entry";
import type { JobRow } from "~/db/jobs";
import { Fact, Foot, registerFonts, paper as s } from "./pdf.server";

export interface CertificateInput {
  shop: string;
  job: JobRow;
  state: JobState;
  plan: JobPlan;
}

/** Renders the certificate as PDF bytes. */
export async function renderCertificate(input: CertificateInput): Promise<Buffer> {
  registerFonts();
  return renderToBuffer(<Certificate {...input} />);
}

function Certificate({ shop, job, state, plan }: CertificateInput) {
  const report = handoverReport(plan, state, new Date().toISOString());
  const { car, kit } = plan.documents;
  const openPoints = report.openPoints.map((p) => p.text);
  const choices = kit.choices.map(
    (c) => `${c.label}: ${c.options.find((o) => o.id === (state.choices?.[c.id] ?? c.default))?.label ?? ""}`,
  );
  const bank = plan.switches?.switches.map(
    (x) => `${x.place} ${state.switches?.[`${kit.switchBank?.part}.${x.setting}`] ?? "not entered"}`,
  );
  return (
    <Document title={`Certificate ${job.number}`} author={shop} creator="Iteron" producer="Iteron">
      <Page size="A4" style={s.page}>
        <Text style={s.title}>
          {state.closed ? "Certificate of work" : "Certificate of work (draft, job not closed)"}
        </Text>
        <Text style={s.quiet}>{shop}</Text>
        <View style={{ marginTop: 12 }}>
          <Fact label="Job" value={`${job.number}, ${job.title}`} />
          <Fact label="Customer" value={job.customer || "not noted"} />
          <Fact label="Car" value={car.title} />
          <Fact label="Identification number" value={state.car.identification || "not noted"} />
          <Fact
            label="Plate, odometer"
            value={`${state.car.plate || "not noted"}, ${state.car.odometerKm === null ? "not noted" : `${state.car.odometerKm} km`}`}
          />
          <Fact
            label="Radio"
            value={`${plan.documents.variant.title}${state.car.firmware ? `, firmware ${state.car.firmware}` : ""}`}
          />
          <Fact label="Kit" value={`${kit.title}, version ${kit.version} of its profile`} />
          <Fact label="Choices" value={choices.join("; ") || "none"} />
          {bank && <Fact label="Switch bank" value={bank.join(", ")} />}
          <Fact
            label="Handed over"
            value={
              state.closed
                ? `${format(new Date(state.closed.at), "d MMMM yyyy, HH:mm")}, ${state.closed.by}`
                : "not yet"
            }
          />
        </View>
        <Text style={s.h2}>Before and after</Text>
        <Line line={["Function", "Before", "After"]} head />
        {report.lines.map((l) => (
          <Line key={l.id} line={[`${l.name}, ${l.label}`, words(l.before), words(l.after)]} />
        ))}
        {state.repairs.length > 0 && (
          <>
            <Text style={s.h2}>Repaired during the work</Text>
            {state.repairs.map((r) => (
              <Text key={r.at}>
                {r.title}. {r.remedy}
              </Text>
            ))}
          </>
        )}
        <Text style={s.h2}>Open points</Text>
        {openPoints.length === 0 ? <Text>None.</Text> : openPoints.map((p) => <Text key={p}>{p}</Text>)}
        <Text style={s.quiet}>
          Video stays locked while the car moves. The law of the place decides what may be shown to the driver.
        </Text>
        <View wrap={false}>
          <Text style={s.h2}>Customer card</Text>
          <View style={s.card}>
            {kit.card.map((line, i) => (
              <Text key={line}>
                {i + 1}. {line}
              </Text>
            ))}
          </View>
        </View>
        <Foot shop={shop} number={job.number} />
      </Page>
    </Document>
  );
}

function Line({ line: [name, before, after], head = false }: { line: [string, string, string]; head?: boolean }) {
  const weight = { fontWeight: head ? (600 as const) : (400 as const) };
  return (
    <View style={s.row} wrap={false}>
      <Text style={[s.grow, weight]}>{name}</Text>
      <Text style={[s.cell, weight]}>{before}</Text>
      <Text style={[s.cell, weight]}>{after}</Text>
    </View>
  );
}

const RESULT_WORDS: Readonly<Record<string, string>> = {
  pass: "works",
  fail: "did not work",
  absent: "not present",
  nothing: "does not work",
  wrong: "works wrongly",
  late: "too late",
  impossible: "could not be tried",
  new: "new",
  "given up": "given up",
};

function words(result: ReportLine["before"]): string {
  return result === null ? "not tried" : (RESULT_WORDS[result] ?? result);
}
