import type { ProfileKind } from "~/profiles/schema";

/** Sections of the editor: which fields of the document stand together. */
const SECTIONS: Record<ProfileKind, { title: string; keys: string[] }[]> = {
  kit: [
    { title: "Basics", keys: ["id", "title", "maker", "work", "price", "fitMinutes", "sourceNote"] },
    { title: "Where it fits", keys: ["fits", "replaces", "firmwareFloors"] },
    { title: "Parts and contacts", keys: ["parts"] },
    { title: "Connections", keys: ["unplug", "plug", "reach", "leads", "tiesBack"] },
    { title: "Steps of the kit itself", keys: ["steps"] },
    { title: "Settings", keys: ["switchBank", "sets", "programmingPlug", "phone"] },
    { title: "Choices", keys: ["choices"] },
    { title: "Functions", keys: ["functions", "actions", "assumed", "normal", "monitors", "inspections"] },
    { title: "Box and needs", keys: ["box", "needs", "card"] },
  ],
  busMap: [
    { title: "Basics", keys: ["id", "title", "car", "sourceNote"] },
    { title: "Signals", keys: ["signals"] },
  ],
  coding: [
    { title: "Basics", keys: ["id", "title", "car", "sourceNote"] },
    { title: "Control units and their words", keys: ["units"] },
  ],
  variant: [
    { title: "Basics", keys: ["id", "title", "car", "share", "sourceNote"] },
    { title: "How it is recognised", keys: ["identifyingFeatures", "answers", "dash"] },
    { title: "Parts and contacts", keys: ["parts"] },
    { title: "Connections", keys: ["links"] },
    { title: "Firmware", keys: ["firmware"] },
    { title: "Functions", keys: ["functions", "normal", "monitors", "inspections"] },
  ],
  car: [
    {
      title: "Basics",
      keys: ["id", "title", "maker", "model", "years", "driveSide", "gearbox", "countries", "sourceNote"],
    },
    { title: "Which radio", keys: ["questions", "identification"] },
    { title: "Parts and contacts", keys: ["parts"] },
    { title: "Connections", keys: ["links"] },
    { title: "Functions", keys: ["functions", "assumed", "normal", "monitors", "inspections", "defaultSituation"] },
    { title: "Strip plan", keys: ["stripPlan"] },
    { title: "Drawings", keys: ["drawings"] },
    { title: "Power, places and ways of leads", keys: ["power", "fusePanel", "places", "runs"] },
    { title: "Figures", keys: ["figures"] },
  ],
};

export function sectionsOf(kind: ProfileKind) {
  return SECTIONS[kind];
}

/** Title of the section in which a field stands; the first one for a field that no section has. */
export function sectionOf(kind: ProfileKind, field: string): string {
  const sections = SECTIONS[kind];
  return (sections.find((s) => s.keys.includes(field)) ?? sections[0])?.title ?? "";
}
