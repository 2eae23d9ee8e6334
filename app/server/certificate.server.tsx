import { Document, Page, Polygon, renderToBuffer, Svg, Text, View } from "@react-pdf/renderer";
import { format } from "date-fns";
import type { DashLines } from "~/core/job/card";
import type { Certificate } from "~/core/job/certificate";
import type { ReportLine } from "~/core/job/report";
import type { JobRow } from "~/db/jobs";
import { Fact, Foot, registerFonts, paper as s } from "./pdf.server";

export interface CertificateInput {
  shop: string;
  job: Pick<JobRow, "number" | "title" | "customer">;
  certificate: Certificate;
}

/** Renders the certificate as PDF bytes. */
export async function renderCertificate(input: CertificateInput): Promise<Buffer> {
  registerFonts();
  return renderToBuffer(<CertificatePaper {...input} />);
}

function CertificatePaper({ shop, job, certificate: c }: CertificateInput) {
  return (
    <Document title={`Certificate ${job.number}`} author={shop} creator="Iteron" producer="Iteron">
      <Page size="A4" style={s.page}>
        <Text style={s.title}>{TITLES[c.closed?.as ?? "draft"]}</Text>
        {c.closed?.as === "unfinished" && (
          <View style={{ border: "2 solid #12171d", padding: 8, marginTop: 6 }}>
            <Text style={{ fontWeight: 600 }}>
              The work on this car is not finished. It left with what is open below.
            </Text>
            {c.openPoints.map((p) => (
              <Text key={p}>{p}</Text>
            ))}
          </View>
        )}
        <Text style={s.quiet}>{shop}</Text>
        <View style={{ marginTop: 12 }}>
          <Fact label="Job" value={`${job.number}, ${job.title}`} />
          <Fact label="Customer" value={job.customer || "not noted"} />
          {c.facts.map((f) => (
            <Fact key={f.label} {...f} />
          ))}
          <Fact
            label={c.closed?.as === "unfinished" ? "Left unfinished" : "Handed over"}
            value={c.closed ? `${format(new Date(c.closed.at), "d MMMM yyyy, HH:mm")}, ${c.closed.by}` : "not yet"}
          />
        </View>
        <Text style={s.h2}>Before and after</Text>
        <Line line={["Function", "Before", "After"]} head />
        {c.functions.map((l) => (
          <Line key={l.id} line={[`${l.name}, ${l.label}`, words(l.before), words(l.after)]} />
        ))}
        {[...c.sections, { title: "Open points", lines: c.openPoints.length > 0 ? c.openPoints : ["None."] }].map(
          (section) => (
            <View key={section.title}>
              <Text style={s.h2} minPresenceAhead={24}>
                {section.title}
              </Text>
              {section.lines.map((line) => (
                <Text key={line}>{line}</Text>
              ))}
            </View>
          ),
        )}
        <Text style={s.quiet}>
          Video stays locked while the car moves. The law of the place decides what may be shown to the driver.
        </Text>
        {c.touched?.shapes.some((x) => x.hatched) && (
          <View wrap={false}>
            <Text style={s.h2}>Panels that were off</Text>
            <Dash lines={c.touched} />
          </View>
        )}
        <View wrap={false}>
          <Text style={s.h2}>Customer card</Text>
          <View style={s.card}>
            {c.card.map((line, i) => (
              <Text key={line}>
                {i + 1}. {line}
              </Text>
            ))}
            {c.keys && c.keys.heavy.length > 0 && (
              <>
                <Text style={s.quiet}>The key is here: {c.keys.heavy.join(", ")}</Text>
                <Dash lines={c.keys} />
              </>
            )}
          </View>
        </View>
        <Foot shop={shop} number={job.number} />
      </Page>
    </Document>
  );
}

const TITLES = {
  ready: "Certificate of work",
  unfinished: "Unfinished work: no certificate",
  draft: "Certificate of work (draft, job not closed)",
} as const;

const DASH_WIDTH = 220;

/** The dash in thin ink; what is meant is drawn heavily, what was off is grey. */
function Dash({ lines: { width, height, shapes } }: { lines: DashLines }) {
  const scale = width / DASH_WIDTH;
  return (
    <Svg viewBox={`0 0 ${width} ${height}`} style={{ width: DASH_WIDTH, height: height / scale, marginTop: 4 }}>
      {shapes.map((x, i) => (
        <Polygon
          // biome-ignore lint/suspicious/noArrayIndexKey: the shapes of a sheet of paper never change
          key={i}
          points={x.outline.map((p) => p.join(",")).join(" ")}
          fill={x.hatched ? "#cfcabd" : "none"}
          stroke="#12171d"
          strokeWidth={(x.heavy ? 2 : 0.5) * scale}
        />
      ))}
    </Svg>
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
