import { Document, Page, renderToBuffer, Text, View } from "@react-pdf/renderer";
import { format } from "date-fns";
import { money } from "~/app/lib/money";
import { hoursRange } from "~/core/fit/hours";
import type { LedgerVerdict } from "~/core/fit/ledger";
import type { Offer } from "~/core/fit/offer";
import type { WiderWay } from "~/core/fit/try-first";
import { askedChoices } from "~/core/model/kit-condition";
import type { KitProfile } from "~/core/model/profile";

import type { LoadedJob } from "./jobs.server";
import { Fact, Foot, registerFonts, paper as s } from "./pdf.server";

interface OfferInput {
  shop: string;
  currency: string;
  job: LoadedJob;
  kit: KitProfile;
  offer: Offer;
  tryFirst: readonly WiderWay[];
}

/** Renders the offer for the customer as PDF bytes. */
export async function renderOffer(input: OfferInput): Promise<Buffer> {
  registerFonts();
  return renderToBuffer(<OfferPaper {...input} />);
}

const PARTS: { title: string; verdicts: LedgerVerdict[]; none: string }[] = [
  { title: "What you get", verdicts: ["gained"], none: "Nothing new." },
  { title: "What you give up", verdicts: ["lost"], none: "Nothing." },
  { title: "What changes a little", verdicts: ["changed"], none: "Nothing." },
  { title: "What did not work before", verdicts: ["faulty"], none: "Nothing." },
  { title: "What stays as it is", verdicts: ["kept"], none: "Nothing." },
];
const UNTRIED = "not tried on this car yet";

function OfferPaper({ shop, currency, job, kit, offer, tryFirst }: OfferInput) {
  const { row, state, plan } = job;
  const options = askedChoices(kit, offer.choices).map(
    (c) => `${c.label}: ${c.options.find((o) => o.id === offer.choices[c.id])?.label ?? ""}`,
  );
  const names = (verdicts: LedgerVerdict[]) => [
    ...new Set(
      offer.lines
        .filter((l) => verdicts.includes(l.verdict))
        .map((l) => (l.untried ? `${l.name} (${UNTRIED})` : l.name)),
    ),
  ];
  const conditions = offer.needs.lines.filter((l) => ["firmware", "licence", "drilling", "person"].includes(l.kind));
  return (
    <Document title={`Offer ${row.number}`} author={shop} creator="Iteron" producer="Iteron">
      <Page size="A4" style={s.page}>
        <Text style={s.title}>Offer</Text>
        <Text style={s.quiet}>
          {shop}, {format(new Date(), "d MMMM yyyy")}
        </Text>
        <View style={{ marginTop: 12 }}>
          <Fact label="Job" value={`${row.number}, ${row.title}`} />
          <Fact label="Customer" value={row.customer || "not noted"} />
          <Fact label="Car" value={plan.documents.car.title} />
          <Fact label="Plate" value={state.car.plate || "not noted"} />
          <Fact label="Radio" value={plan.documents.variant.title} />
          <Fact label="Kit" value={`${offer.title} (${offer.work.toLowerCase()})`} />
          <Fact label="With" value={options.join("; ") || "no options"} />
          <Fact label="Time" value={`${hoursRange(offer.time.whole)}, the car opened and closed included`} />
          <Fact label="Price of kit and parts" value={money(offer.needs.price, currency)} />
        </View>
        {PARTS.map((part) => (
          <View key={part.title} wrap={false}>
            <Text style={s.h2}>{part.title}</Text>
            {names(part.verdicts).length === 0 ? (
              <Text style={s.quiet}>{part.none}</Text>
            ) : (
              names(part.verdicts).map((n) => <Text key={n}>– {n}</Text>)
            )}
          </View>
        ))}
        <View wrap={false}>
          <Text style={s.h2}>Good to know</Text>
          <Text>{offer.verdict.text}</Text>
          {conditions.map((c) => (
            <Text key={c.say}>
              – {c.say}
              {c.why ? `. ${c.why}` : ""}
            </Text>
          ))}
          {tryFirst.map((w) => (
            <Text key={w.option}>
              – {w.words} Then {Math.round(w.minutes)} min more
              {w.price === 0 ? "" : `, ${money(w.price, currency)}`}.
            </Text>
          ))}
          <Text style={s.quiet}>
            Video stays locked while the car moves. The law of the place decides what may be shown to the driver.
          </Text>
        </View>
        <View wrap={false} style={{ marginTop: 36, flexDirection: "row", gap: 24 }}>
          {["Place and date", "Signature of the customer"].map((label) => (
            <View key={label} style={[s.grow, { borderTopWidth: 0.7, borderTopColor: "#12171d", paddingTop: 4 }]}>
              <Text style={s.quiet}>{label}</Text>
            </View>
          ))}
        </View>
        <Foot shop={shop} number={row.number} />
      </Page>
    </Document>
  );
}
