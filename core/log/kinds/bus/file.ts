import { type Kind, refuse } from "../../kind";

interface FileData {
  file: string;
  name: string;
  what: "log" | "dbc";
}

export const file: Kind<"bus.file", FileData, { files: (FileData & { at: string; by: string })[] }, { file: string }> =
  {
    kind: "bus.file",
    empty: () => ({ files: [] }),
    fold(state, { data, at, by }) {
      state.files.push({ ...data, at, by });
    },
    check(job, { file }) {
      const stored = job.file(file);
      if (stored && stored.what !== "photo") return null;
      return refuse("bus file", "This bus file is not stored with the job.", "Upload it again.");
    },
    write(job, { file }) {
      const stored = job.file(file);
      return { file, name: stored?.name ?? "", what: stored?.what === "dbc" ? "dbc" : "log" };
    },
    words: ({ name, what }) => `${what === "dbc" ? "Signal list" : "Bus log"} stored: ${name}`,
    upgrade: [],
  };
