import { type ReactNode, useContext, useState } from "react";
import { faceOf } from "~/core/connect/face";
import { SIGNAL_KINDS, type SignalKind } from "~/core/model/kinds";
import type { Port } from "~/core/model/types";
import { Button, ScrollX } from "../controls";
import { FaceView } from "../drawings/face-view";
import { DocumentContext } from "./condition-field";
import { isObject, type Json, valueAt } from "./json-schema";

/** More cavities than a plug of a car has; a slip of the key is not drawn. */
const MOST_WAYS = 120;

/**
 * The contacts of a plug entered on its drawing: the cavity that is tapped is in hand, an empty one gets a contact first.
 * Nothing where the document does not yet say which plug it is.
 */
export function ContactsByPlug({
  path,
  contacts,
  onAdd,
  children,
}: {
  /** Of the list of contacts, within the document. */
  path: string;
  contacts: readonly Json[];
  onAdd(id: string): void;
  /** The fields of a contact, by its place in the list. */
  children: (index: number) => ReactNode;
}) {
  const document = useContext(DocumentContext);
  const [at, setAt] = useState<string | null>(null);
  const port = portAt(document, path, contacts);
  const face = port && faceOf(port, "mating");
  if (!face) return null;
  const index = contacts.findIndex((c) => isObject(c) && c.id === at);
  return (
    <div className="mb-3 space-y-3">
      <p className="text-sm text-quiet">
        From the mating side. Tap a cavity to say what its contact carries; an empty one gets a contact.
      </p>
      <ScrollX label={`Plug ${port.label}`}>
        <FaceView
          face={face}
          name={port.label}
          at={at}
          onTap={(cavity) => {
            if (!cavity.contact) onAdd(cavity.id);
            setAt(cavity.id);
          }}
        />
      </ScrollX>
      {index >= 0 && (
        <div className="border-l-2 border-accent pl-4">
          {children(index)}
          <Button look="quiet" className="px-0!" onClick={() => setAt(null)}>
            Done with contact {at}
          </Button>
        </div>
      )}
    </div>
  );
}

/** The port whose contacts stand at a path, as far as it is written. */
function portAt(document: Json, path: string, contacts: readonly Json[]): Port | null {
  const port = valueAt(document, path.split(".").slice(0, -1));
  if (!isObject(port) || !isObject(port.connector)) return null;
  const { ways, gender, rows } = port.connector;
  if (typeof ways !== "number" || !Number.isInteger(ways) || ways < 1 || ways > MOST_WAYS) return null;
  return {
    id: String(port.id),
    label: String(port.label ?? ""),
    connector: {
      family: "",
      ways,
      gender: gender === "male" ? "male" : "female",
      ...(typeof rows === "number" && rows >= 1 && rows <= ways ? { rows } : {}),
    },
    contacts: contacts.flatMap((c) =>
      isObject(c) && typeof c.id === "string" && SIGNAL_KINDS.includes(c.kind as SignalKind)
        ? [{ id: c.id, kind: c.kind as SignalKind, direction: "wire" as const }]
        : [],
    ),
  };
}
