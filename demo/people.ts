import type { Role } from "../db/accounts";

/** Sign-ins of the demonstration; refused unless the server was started with it. */
export const DEMO_PASSWORD = "harbour-light-42";
export const DEMO_ACCOUNTS: readonly { email: string; name: string; role: Role }[] = [
  { email: "technician@skerry.example", name: "Tomas Ebdal", role: "technician" },
  { email: "lead@skerry.example", name: "Ineke Varr", role: "lead" },
  { email: "counter@skerry.example", name: "Runa Sild", role: "counter" },
  { email: "reader@skerry.example", name: "Visiting inspector", role: "read-only" },
];
