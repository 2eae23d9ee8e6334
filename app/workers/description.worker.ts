import { expose } from "comlink";
import { parseDbc } from "~/core/bus/dbc";
import type { Dbc } from "~/core/bus/dbc-messages";
import { dbcText } from "~/core/bus/dbc-statements";
import { describedSignal, type FoundSignal } from "~/core/bus/hunt/found";
import { wholeFile } from "./stored-file";

/** A signal of a description, and why it cannot be taken over where it cannot. */
export interface DescribedSignal {
  message: string;
  signal: string;
  taken: FoundSignal | string;
}

const MOST_SHOWN = 40;
let read: { url: string; dbc: Dbc } | null = null;

/** Signals of a bus description whose name, message or unit holds the text, the first ones of how many. */
async function search(url: string, file: string, text: string): Promise<{ found: DescribedSignal[]; of: number }> {
  if (read?.url !== url) {
    read = { url, dbc: parseDbc(dbcText(await wholeFile(url))) };
  }
  const wanted = text.trim().toLowerCase();
  const hits = read.dbc.messages.flatMap((m) =>
    m.signals
      .filter((s) => `${m.name} ${s.name} ${s.unit} ${[...s.values.values()].join(" ")}`.toLowerCase().includes(wanted))
      .map((s) => ({ m, s })),
  );
  return {
    found: hits
      .slice(0, MOST_SHOWN)
      .map(({ m, s }) => ({ message: m.name, signal: s.name, taken: describedSignal(m, s, file) })),
    of: hits.length,
  };
}

const api = { search };
export type DescriptionWorker = typeof api;
expose(api);
