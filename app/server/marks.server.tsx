import { Document, Page, renderToBuffer, Text, View } from "@react-pdf/renderer";
import { format } from "date-fns";
import { placeWords } from "~/core/camera/place-words";
import { tapePlan } from "~/core/camera/tape-plan";
import { camerasOf, wantedOf } from "~/core/job/cameras";
import type { LoadedJob } from "./jobs.server";
import { Foot, registerFonts, paper as s } from "./pdf.server";

/** The marks for the floor as a list for a tape; null when the job has no such camera. */
export async function renderMarks(shop: string, job: LoadedJob, id: string): Promise<Buffer | null> {
  const camera = camerasOf(job.plan).find((c) => c.id === id);
  if (!camera) return null;
  const marks = tapePlan(wantedOf(job.plan, job.state, camera).camera, camera.looks);
  registerFonts();
  return renderToBuffer(
    <Document title={`Marks ${job.row.number}`} author={shop} creator="Iteron" producer="Iteron">
      <Page size="A4" style={s.page}>
        <Text style={s.title}>Marks on the floor: {camera.name.toLowerCase()}</Text>
        <Text style={s.quiet}>
          {job.row.number}, {job.row.title}. {job.plan.documents.car.title}. {format(new Date(), "d MMMM yyyy")}
        </Text>
        <Text style={{ marginTop: 4 }}>
          The first figure runs straight away from the edge of the {camera.looks === "back" ? "rear" : "front"} bumper,
          the second from the middle line of the car to its left or right. Measure along the floor.
        </Text>
        <View style={{ marginTop: 12 }}>
          {marks.map((m) => (
            <View key={m.id} style={s.row}>
              <Text style={{ ...s.cell, fontWeight: 600 }}>{m.id}</Text>
              <Text style={s.grow}>{placeWords(m.at, camera.looks)}</Text>
              <Text style={s.cell}>set: ____</Text>
            </View>
          ))}
        </View>
        <Foot shop={shop} number={job.row.number} />
      </Page>
    </Document>,
  );
}
