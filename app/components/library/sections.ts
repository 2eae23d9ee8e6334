import type { ProfileKind } from "~/profiles/schema";

/** Sections of the editor: which fields of the document stand together. */
const SECTIONS: Record<ProfileKind, { title: string; keys: string[] }[]> = {
  kit: [
    { title: "Basics", keys: ["id", "title", "maker", "work", "price", "fitMinutes", "sourceNote"] },
    { title: "Where it fits", keys: ["fits", "replaces", "firmwareFloors"] },
    { title: "Parts and contacts", keys: ["parts"] },
    { title: "Connections", keys: ["unplug", "plug", "reach", "leads"] },
    { title: "Settings", keys: ["switchBank", "sets"] },
    { title: "Choices", keys: ["choices"] },
    { title: "Functions", keys: ["functions", "actions", "assumed"] },
    { title: "Box and needs", keys: ["box", "needs", "card"] },
  ],
  variant: [
    { title: "Basics", keys: ["id", "title", "car", "share", "sourceNote"] },
    { title: "How it is recognised", keys: ["identifyingFeatures", "answers", "dash"] },
    { title: "Parts and contacts", keys: ["parts"] },
    { title: "Connections", keys: ["links"] },
    { title: "Firmware", keys: ["firmware"] },
    { title: "Functions", keys: ["functions"] },
  ],
  car: [
    {
      title: "Basics",
      keys: ["id", "title", "maker", "model", "years", "driveSide", "gearbox", "countries", "sourceNote"],
    },
    { title: "Which radio", keys: ["questions", "identification"] },
    { title: "Parts and contacts", keys: ["parts"] },
    { title: "Connections", keys: ["links"] },
    { title: "Functions", keys: ["functions", "assumed", "defaultSituation"] },
    { title: "Strip plan", keys: ["stripPlan"] },
    { title: "Drawings", keys: ["drawings"] },
    { title: "Power, places and ways of leads", keys: ["power", "fusePanel", "places", "runs"] },
  ],
};

export function sectionsOf(kind: ProfileKind) {
  return SECTIONS[kind];
}
