import { KIND_NAMES } from "../model/kinds";
import { describePort, stampOf } from "../model/labels";
import { findPort } from "../model/ports";
import type { System } from "../model/types";
import type { Connection } from "./connection-plan";

/** The connections contact by contact, one row for each, in the order of plugging; units and names in the header. */
export function connectionTable(system: System, connections: readonly Connection[]): Record<string, string | number>[] {
  return connections.flatMap((c, i) => {
    const [a, b] = [findPort(system, c.a), findPort(system, c.b)];
    return (a?.contacts ?? []).map((contact) => {
      const wire = contact.wire ?? b?.contacts.find((x) => x.id === contact.id)?.wire;
      return {
        order: i + 1,
        connection: c.say,
        from: describePort(system, c.a),
        to: describePort(system, c.b),
        family: a?.connector?.family ?? "",
        ways: a?.connector?.ways ?? "",
        keying: a?.connector?.keying ?? "",
        contact: stampOf(contact),
        signal: KIND_NAMES[contact.kind],
        label: contact.label ?? "",
        colour: wire?.base ?? "",
        tracer: wire?.tracer ?? "",
      };
    });
  });
}
