import { createRequire } from "node:module";
import { Font, StyleSheet, Text, View } from "@react-pdf/renderer";

const require = createRequire(import.meta.url);
const font = (name: string) =>
  require.resolve(`@fontsource/ibm-plex-sans/files/ibm-plex-sans-latin-${name}-normal.woff`);
let ready = false;

/** The fonts ship with the application; nothing is fetched. */
export function registerFonts(): void {
  if (ready) return;
  Font.register({
    family: "Plex",
    fonts: [
      { src: font("400"), fontWeight: 400 },
      { src: font("600"), fontWeight: 600 },
    ],
  });
  Font.registerHyphenationCallback((word) => [word]);
  ready = true;
}

/** The look of the shop's papers. */
export const paper = StyleSheet.create({
  page: { fontFamily: "Plex", fontSize: 9.5, padding: 44, color: "#12171d", lineHeight: 1.4 },
  title: { fontSize: 19, fontWeight: 600, lineHeight: 1.25, marginBottom: 3 },
  quiet: { color: "#525a63" },
  h2: {
    fontSize: 12,
    fontWeight: 600,
    marginTop: 16,
    marginBottom: 4,
    paddingTop: 8,
    borderTopWidth: 0.7,
    borderTopColor: "#8d877a",
  },
  row: { flexDirection: "row", paddingVertical: 2.5, borderBottomWidth: 0.4, borderBottomColor: "#d9d5ca" },
  grow: { flexGrow: 1, flexBasis: 0 },
  cell: { width: 92 },
  fact: { flexDirection: "row", marginBottom: 1.5 },
  label: { width: 120, color: "#525a63" },
  card: { marginTop: 6, padding: 12, borderWidth: 1, borderColor: "#12171d" },
  foot: {
    position: "absolute",
    bottom: 24,
    left: 44,
    right: 44,
    flexDirection: "row",
    justifyContent: "space-between",
    color: "#525a63",
    fontSize: 8,
  },
});

/** A label with its value. */
export function Fact({ label, value }: { label: string; value: string }) {
  return (
    <View style={paper.fact}>
      <Text style={paper.label}>{label}</Text>
      <Text style={paper.grow}>{value}</Text>
    </View>
  );
}

/** Foot of every page. */
export function Foot({ shop, number }: { shop: string; number: number }) {
  return (
    <View style={paper.foot} fixed>
      <Text>
        {shop}, job {number}
      </Text>
      <Text render={({ pageNumber, totalPages }) => `Page ${pageNumber} of ${totalPages}`} />
    </View>
  );
}
