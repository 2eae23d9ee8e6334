import { Document, G, Page, Polyline, Rect, renderToBuffer, Svg, Text } from "@react-pdf/renderer";
import type { LaidOut } from "~/app/lib/lay-out";
import type { DrawingGraph } from "~/core/connect/drawing";
import { LAYER_DASHES } from "~/core/connect/drawing";
import type { JobRow } from "~/db/jobs";
import { laidOut } from "./layout.server";
import { Foot, registerFonts, paper as s } from "./pdf.server";

const MARGIN = 44;
/** A3 across, in points, less margins and the lines above and below. */
const ROOM = { width: 1190.55 - 2 * MARGIN, height: 841.89 - 2 * MARGIN - 70 };

/** Renders a drawing of the system as a PDF page of vectors and text. */
export async function renderSystemDrawing(
  shop: string,
  job: JobRow,
  graph: DrawingGraph,
  subtitle: string,
): Promise<Buffer> {
  registerFonts();
  const drawing = await laidOut(graph);
  return renderToBuffer(
    <Document title={`System ${job.number}`} author={shop} creator="Iteron" producer="Iteron">
      <Page size="A3" orientation="landscape" style={s.page}>
        <Text style={s.title}>The whole system as fitted</Text>
        <Text style={s.quiet}>
          {job.number}, {job.title}. {subtitle}
        </Text>
        <Drawing drawing={drawing} />
        <Text style={{ ...s.quiet, marginTop: 6 }}>
          Heavy: what the kit brings. Square: devices, round: leads and looms. Lines: supply dotted, control dashed,
          picture, sound and data drawn through.
        </Text>
        <Foot shop={shop} number={job.number} />
      </Page>
    </Document>,
  );
}

function Drawing({ drawing }: { drawing: LaidOut }) {
  const [width, height] = [drawing.width + 8, drawing.height + 8];
  const scale = Math.min(1.4, ROOM.width / width, ROOM.height / height);
  return (
    <Svg viewBox={`-4 -4 ${width} ${height}`} style={{ width: width * scale, height: height * scale, marginTop: 10 }}>
      {drawing.lines.map((l) => (
        <Polyline
          key={l.id}
          points={l.points.map((p) => `${p.x},${p.y}`).join(" ")}
          fill="none"
          stroke="#12171d"
          strokeOpacity={l.ofKit ? 1 : 0.45}
          strokeWidth={l.ofKit ? 2 : 1.25}
          {...dash(l.air ? "1 6" : LAYER_DASHES[l.layer])}
        />
      ))}
      {drawing.boxes.map((b) => (
        <G key={b.id}>
          <Rect
            x={b.x}
            y={b.y}
            width={b.width}
            height={b.height}
            rx={b.type === "device" ? 3 : b.height / 2}
            fill="#ffffff"
            stroke="#12171d"
            strokeWidth={b.ofKit ? 2.5 : 1}
          />
          <Text
            x={b.x + b.width / 2}
            y={b.y + b.height / 2 + 5}
            textAnchor="middle"
            style={{ fontSize: 14, fontFamily: "Plex" }}
          >
            {b.name}
          </Text>
        </G>
      ))}
    </Svg>
  );
}

function dash(strokeDasharray: string | undefined) {
  return strokeDasharray === undefined ? {} : { strokeDasharray };
}
