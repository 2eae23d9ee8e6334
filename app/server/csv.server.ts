import Papa from "papaparse";

/** A table as a CSV file: UTF-8, comma, header line; text that a spreadsheet would run as a formula is quoted. */
export function csvFile(rows: readonly Record<string, string | number>[], name: string): Response {
  return new Response(Papa.unparse([...rows], { escapeFormulae: true, newline: "\r\n" }), {
    headers: {
      "Content-Type": "text/csv; charset=utf-8",
      "Content-Disposition": `attachment; filename="${name}"`,
    },
  });
}
