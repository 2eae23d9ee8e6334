import { Document, Page, Path, renderToBuffer, Svg, Text, View } from "@react-pdf/renderer";
import { create } from "qrcode";
import { labelText } from "~/core/connect/label";
import type { LoadedJob } from "./jobs.server";
import { Foot, registerFonts, paper as s } from "./pdf.server";

/** Points across a code; large enough for a tablet at arm's length. */
const CODE_PT = 58;

/** Renders a sheet of flags for the leads of a job: the code, what it is, where it goes. */
export async function renderLabels(shop: string, { row, plan }: LoadedJob): Promise<Buffer> {
  registerFonts();
  const own = plan.connections.filter((c) => c.kind === "kit");
  return renderToBuffer(
    <Document title={`Labels ${row.number}`} author={shop} creator="Iteron" producer="Iteron">
      <Page size="A4" style={s.page}>
        <Text style={s.title}>Labels of the leads</Text>
        <Text style={s.quiet}>
          {row.number}, {row.title}. Cut along the lines, fold round the lead beside its plug.
        </Text>
        <View style={{ flexDirection: "row", flexWrap: "wrap", marginTop: 10 }}>
          {own.map((c) => (
            <View
              key={c.link}
              wrap={false}
              style={{
                width: "50%",
                flexDirection: "row",
                gap: 8,
                padding: 6,
                borderWidth: 0.5,
                borderColor: "#8d877a",
                borderStyle: "dashed",
              }}
            >
              <Code text={labelText(row.number, c.link)} />
              <View style={{ flexGrow: 1, flexBasis: 0 }}>
                <Text style={{ fontWeight: 600 }}>{c.say}</Text>
                <Text style={s.quiet}>{labelText(row.number, c.link)}</Text>
              </View>
            </View>
          ))}
        </View>
        <Foot shop={shop} number={row.number} />
      </Page>
    </Document>,
  );
}

function Code({ text }: { text: string }) {
  const { modules } = create(text, { errorCorrectionLevel: "M" });
  const cells = Array.from({ length: modules.size ** 2 }, (_, i) => i).filter((i) => modules.data[i]);
  const d = cells.map((i) => `M${i % modules.size} ${Math.floor(i / modules.size)}h1v1h-1z`).join("");
  return (
    <Svg viewBox={`-2 -2 ${modules.size + 4} ${modules.size + 4}`} style={{ width: CODE_PT, height: CODE_PT }}>
      <Path d={d} fill="#12171d" />
    </Svg>
  );
}
