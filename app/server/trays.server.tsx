import { Document, Page, Path, Rect, renderToBuffer, Svg, Text, View } from "@react-pdf/renderer";
import { format } from "date-fns";
import type { Fastener } from "~/core/model/profile";
import type { Route } from "~/core/strip/route";
import type { LoadedJob } from "./jobs.server";
import { Foot, registerFonts, paper as s } from "./pdf.server";

/** Points of a millimetre: screws are printed in their true length, to be laid on their picture. */
const PT_PER_MM = 72 / 25.4;
const MAX_DRAWN = 8;

/** Renders the sheet that lies under the trays: a field for each, with its screws in true size and room to count. */
export async function renderTraySheet(shop: string, job: LoadedJob, route: Route): Promise<Buffer> {
  registerFonts();
  return renderToBuffer(<TraySheet shop={shop} job={job} route={route} />);
}

function TraySheet({ shop, job, route }: { shop: string; job: LoadedJob; route: Route }) {
  const fields = traysOf(route);
  const clips = route.steps.filter((x) => x.clips);
  return (
    <Document title={`Trays ${job.row.number}`} author={shop} creator="Iteron" producer="Iteron">
      <Page size="A4" style={s.page}>
        <Text style={s.title}>Tray sheet</Text>
        <Text style={s.quiet}>
          {job.row.number}, {job.row.title}. {job.plan.documents.car.title}. {format(new Date(), "d MMMM yyyy")}
        </Text>
        <Text style={{ marginTop: 4 }}>
          Print without scaling: screws are drawn in their true length. Lay the first of each group on its picture.
        </Text>
        <View style={{ flexDirection: "row", flexWrap: "wrap", gap: 10, marginTop: 12 }}>
          {fields.map((f) => (
            <Field key={`${f.tray}-${f.step}`} {...f} />
          ))}
        </View>
        {clips.length > 0 && (
          <View wrap={false}>
            <Text style={s.h2}>Clips to count</Text>
            {clips.map((x) => (
              <View key={x.id} style={s.row}>
                <Text style={s.grow}>{x.panel ?? x.title}</Text>
                <Text style={s.cell}>{x.clips?.count} clips</Text>
                <Text style={{ ...s.cell, width: 150 }}>
                  {x.clips?.stay === "dash" ? "stay in the dash" : "stay on the panel"}
                </Text>
                <Text style={s.cell}>whole: ____</Text>
              </View>
            ))}
          </View>
        )}
        <Foot shop={shop} number={job.row.number} />
      </Page>
    </Document>
  );
}

interface FieldProps {
  tray: string;
  step: string;
  title: string;
  fastener: Fastener;
  mixed: boolean;
}

function traysOf(route: Route): FieldProps[] {
  const all = route.steps.flatMap((step) =>
    (step.fasteners ?? []).map((fastener) => ({
      tray: fastener.tray,
      step: step.id,
      title: step.panel ?? step.title,
      fastener,
    })),
  );
  return all
    .map((f) => ({
      ...f,
      mixed: all.some((o) => o.fastener.kind === f.fastener.kind && o.fastener.lengthMm !== f.fastener.lengthMm),
    }))
    .sort((a, b) => (a.tray < b.tray ? -1 : 1));
}

function Field({ tray, title, fastener: f, mixed }: FieldProps) {
  return (
    <View wrap={false} style={{ width: 245, minHeight: 128, borderWidth: 1, borderColor: "#12171d", padding: 8 }}>
      <View style={{ flexDirection: "row" }}>
        <Text style={{ fontSize: 28, fontWeight: 600, lineHeight: 1, width: 34 }}>{tray}</Text>
        <View style={s.grow}>
          <Text style={{ fontWeight: 600 }}>{title}</Text>
          <Text>
            {f.count} × {f.kind}
            {f.lengthMm ? `, ${f.lengthMm} mm` : ""}
          </Text>
          {f.place && <Text style={s.quiet}>{f.place}</Text>}
          {mixed && <Text style={{ fontWeight: 600 }}>Two lengths of this kind: keep apart</Text>}
        </View>
      </View>
      <View style={{ flexDirection: "row", flexWrap: "wrap", gap: 6, marginTop: 6 }}>
        {f.lengthMm &&
          Array.from({ length: Math.min(f.count, MAX_DRAWN) }, (_, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: equal screws have no other identity
            <Screw key={i} lengthMm={f.lengthMm ?? 0} />
          ))}
      </View>
      <Text style={{ marginTop: 6 }}>out: ____ in: ____</Text>
    </View>
  );
}

/** Head and shaft; the shaft has the length by which a screw is named. */
function Screw({ lengthMm }: { lengthMm: number }) {
  const head = 9;
  const shaft = lengthMm * PT_PER_MM;
  return (
    <Svg width={head + shaft} height={18} viewBox={`0 0 ${head + shaft} 18`}>
      <Rect x={0.5} y={1} width={head - 1} height={16} rx={2} stroke="#12171d" strokeWidth={0.8} fill="none" />
      <Path
        d={`M${head} 5.5H${head + shaft - 4}L${head + shaft} 9L${head + shaft - 4} 12.5H${head}Z`}
        stroke="#12171d"
        strokeWidth={0.8}
        fill="none"
      />
    </Svg>
  );
}
