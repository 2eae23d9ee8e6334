/**
 * The table of guards: for every kind of entry, in which states of the car it passes, asks, wants a reason or is refused.
 * Server, device and button read it, and nothing else decides. A kind without a row is a type error.
 */
import type { Command, EntryKind } from "../../log/entry";
import { atRest, bringing } from "./car";
import { accepting, closing } from "./close";
import { changingKit, changingPlan, signing } from "./fit";
import { type Guard, type Pressing, refused, type Stop } from "./guard";
import { measuring, movingContacts, plugging, testing, testingTap, unlocking } from "./plugs";
import { doingStep } from "./strip";
import { awake, lit, looking, steppingThrough, touching, trying, tryingBefore } from "./tried";
import { takingBack } from "./undo";
import { pairing, powerCycling, programming, setting, switching, talking, updating } from "./writing";

/** Who may press, and what must be so. */
interface Row<K extends EntryKind> {
  /** `work`: at the car, by who works there; `all`: the counter as well. */
  by: "work" | "all";
  guards: readonly Guard<K>[];
}

/** It says nothing about the car as it stands. */
const ANY_STATE = [] as const;
const all = <K extends EntryKind>(...guards: Guard<K>[]): Row<K> => ({ by: "all", guards });
const work = <K extends EntryKind>(...guards: Guard<K>[]): Row<K> => ({ by: "work", guards });

const TABLE: { readonly [K in EntryKind]: Row<K> } = {
  "intake.car": all(...ANY_STATE),
  "intake.baseline": all(tryingBefore),
  "intake.wishes": all(...ANY_STATE),
  "intake.variant": all((p, asked) => changingPlan(p, "intake.variant", asked)),
  "intake.unread": all(...ANY_STATE),
  "fit.kit": all(changingKit),
  "fit.confirm": all((p, asked) => changingPlan(p, "fit.confirm", asked)),
  "fit.signed": all(signing),
  "strip.step": work(atRest, doingStep),
  "strip.skip": work(...ANY_STATE),
  "strip.add": work(...ANY_STATE),
  "strip.want": work(...ANY_STATE),
  "strip.split": work(...ANY_STATE),
  "strip.note": work(...ANY_STATE),
  "strip.count": work(...ANY_STATE),
  "strip.small": work(...ANY_STATE),
  "strip.gate": work(...ANY_STATE),
  "strip.maintainer": work(atRest, (p, { connected }) => bringing(p, { maintainer: connected })),
  "strip.stands": all((p, { sets }) => bringing(p, sets)),
  "strip.behind": work(...ANY_STATE),
  "connect.laidOut": work(...ANY_STATE),
  "connect.plug": work(atRest, plugging),
  "connect.lock": work(atRest, unlocking),
  "connect.place": work(...ANY_STATE),
  "connect.task": work(atRest),
  "connect.feedTest": work(atRest, testing),
  "connect.feed": work(...ANY_STATE),
  "connect.tap": work(atRest, testingTap),
  "connect.reading": work(atRest, measuring),
  "configure.switches": work(atRest, switching),
  "configure.set": work(atRest, setting),
  "configure.powerCycle": work(atRest, powerCycling),
  "configure.giveUp": all(...ANY_STATE),
  "configure.plug": work(atRest, programming),
  "configure.pairing": work(atRest, pairing),
  "configure.loaded": work(...ANY_STATE),
  "configure.firmware": work(updating),
  "configure.map": work(...ANY_STATE),
  "configure.word": work(...ANY_STATE),
  "configure.session": work(talking),
  "bus.file": work(...ANY_STATE),
  "bus.cues": work(...ANY_STATE),
  "bus.signal": work(...ANY_STATE),
  "bus.map": work(...ANY_STATE),
  "bus.translation": work(...ANY_STATE),
  "bus.proof": work(...ANY_STATE),
  "prove.result": work(trying),
  "prove.check": work(looking),
  "prove.repair": work(...ANY_STATE),
  "prove.codes": work((p) => awake(p.car, "Fault codes are read")),
  "prove.walk": work((p) => lit(p, "Walk round the loudspeakers")),
  "prove.moved": work(atRest, movingContacts),
  "prove.touch": work(touching),
  "prove.aim": work(...ANY_STATE),
  "prove.sight": work((p) => lit(p, "Picture of the camera")),
  "prove.turned": work(...ANY_STATE),
  "prove.lines": work((p) => lit(p, "Guide lines")),
  "prove.reverseTime": work((p) => lit(p, "Time of the reverse picture")),
  "prove.figure": work(...ANY_STATE),
  "prove.polarity": work((p) => lit(p, "Polarity of loudspeakers")),
  "prove.hum": work((p) => lit(p, "Hum")),
  "prove.use": work((p) => lit(p, "Keys and signs of the bus")),
  "prove.step": work(steppingThrough),
  "handover.point": all(...ANY_STATE),
  "handover.accept": all(accepting),
  "handover.close": work(closing),
  "handover.reopen": all(...ANY_STATE),
  despite: all(...ANY_STATE),
  undo: all((p, asked) => takingBack(p, asked, guard)),
};

/** The first thing that speaks against a press as the car stands; null when it may be written. */
export function guard(press: Pressing, command: Command): Stop | null {
  const row = TABLE[command.kind] as Row<EntryKind>;
  const right = mayNot(press, command);
  if (right) return right;
  for (const look of row.guards) {
    const stop = look(press, command.data as never);
    if (stop) return stop;
  }
  return null;
}

/** Why a person may not press it, however the car stands. */
function mayNot({ job, who }: Pressing, command: Command): Stop | null {
  if (who.role === "read-only")
    return refused("right", "rights", "You may look, and note nothing.", "Ask the lead for the right to work on jobs.");
  if (who.role !== "counter") return null;
  // Taken back is what was pressed: by who may press it.
  const taken = command.kind === "undo" ? job.entries.find((e) => e.id === command.data.entry) : undefined;
  return TABLE[taken?.kind ?? command.kind].by === "work"
    ? refused(
        "right",
        "rights",
        "What is done at the car is noted by who works there.",
        "Ask a technician or the lead; the counter keeps car sheet, wishes and offer.",
      )
    : null;
}
