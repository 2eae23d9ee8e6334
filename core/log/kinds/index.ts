/** All kinds of entries. A new one is its module, one line here, and its schema in `profiles/job.ts`. */
import { cues } from "./bus/cues";
import { file } from "./bus/file";
import { busMap } from "./bus/map";
import { proof } from "./bus/proof";
import { signal } from "./bus/signal";
import { translation } from "./bus/translation";
import { firmware } from "./configure/firmware";
import { giveUp } from "./configure/give-up";
import { loaded } from "./configure/loaded";
import { map } from "./configure/map";
import { pairing } from "./configure/pairing";
import { plugEvent } from "./configure/plug-event";
import { powerCycle } from "./configure/power-cycle";
import { session } from "./configure/session";
import { set } from "./configure/set";
import { switches } from "./configure/switches";
import { word } from "./configure/word";
import { feed } from "./connect/feed";
import { feedTest } from "./connect/feed-test";
import { laidOut } from "./connect/laid-out";
import { lock } from "./connect/lock";
import { place } from "./connect/place";
import { plug } from "./connect/plug";
import { reading } from "./connect/reading";
import { tap } from "./connect/tap";
import { task } from "./connect/task";
import { despite } from "./despite";
import { confirm } from "./fit/confirm";
import { kit } from "./fit/kit";
import { signed } from "./fit/signed";
import { accept } from "./handover/accept";
import { close } from "./handover/close";
import { point } from "./handover/point";
import { reopen } from "./handover/reopen";
import { baseline } from "./intake/baseline";
import { car } from "./intake/car";
import { unread } from "./intake/unread";
import { variant } from "./intake/variant";
import { wishes } from "./intake/wishes";
import { aim } from "./prove/aim";
import { check } from "./prove/check";
import { codes } from "./prove/codes";
import { figure } from "./prove/figure";
import { hum } from "./prove/hum";
import { lines } from "./prove/lines";
import { moved } from "./prove/moved";
import { polarity } from "./prove/polarity";
import { repair } from "./prove/repair";
import { result } from "./prove/result";
import { reverseTime } from "./prove/reverse-time";
import { sight } from "./prove/sight";
import { step as sequenceStep } from "./prove/step";
import { touch } from "./prove/touch";
import { turned } from "./prove/turned";
import { use } from "./prove/use";
import { walk } from "./prove/walk";
import { add } from "./strip/add";
import { behind } from "./strip/behind";
import { count } from "./strip/count";
import { gate } from "./strip/gate";
import { maintainer } from "./strip/maintainer";
import { note } from "./strip/note";
import { skip } from "./strip/skip";
import { small } from "./strip/small";
import { split } from "./strip/split";
import { stands } from "./strip/stands";
import { step } from "./strip/step";
import { want } from "./strip/want";
import { undo } from "./undo";

export const KINDS = {
  "intake.car": car,
  "intake.baseline": baseline,
  "intake.wishes": wishes,
  "intake.variant": variant,
  "intake.unread": unread,
  "fit.kit": kit,
  "fit.confirm": confirm,
  "fit.signed": signed,
  "strip.step": step,
  "strip.skip": skip,
  "strip.add": add,
  "strip.want": want,
  "strip.split": split,
  "strip.note": note,
  "strip.count": count,
  "strip.small": small,
  "strip.gate": gate,
  "strip.maintainer": maintainer,
  "strip.stands": stands,
  "strip.behind": behind,
  "connect.laidOut": laidOut,
  "connect.plug": plug,
  "connect.lock": lock,
  "connect.place": place,
  "connect.task": task,
  "connect.feedTest": feedTest,
  "connect.feed": feed,
  "connect.tap": tap,
  "connect.reading": reading,
  "configure.switches": switches,
  "configure.set": set,
  "configure.powerCycle": powerCycle,
  "configure.giveUp": giveUp,
  "configure.plug": plugEvent,
  "configure.pairing": pairing,
  "configure.loaded": loaded,
  "configure.firmware": firmware,
  "configure.map": map,
  "configure.word": word,
  "configure.session": session,
  "bus.file": file,
  "bus.cues": cues,
  "bus.signal": signal,
  "bus.map": busMap,
  "bus.translation": translation,
  "bus.proof": proof,
  "prove.result": result,
  "prove.check": check,
  "prove.repair": repair,
  "prove.codes": codes,
  "prove.walk": walk,
  "prove.moved": moved,
  "prove.touch": touch,
  "prove.aim": aim,
  "prove.sight": sight,
  "prove.turned": turned,
  "prove.lines": lines,
  "prove.reverseTime": reverseTime,
  "prove.figure": figure,
  "prove.polarity": polarity,
  "prove.hum": hum,
  "prove.use": use,
  "prove.step": sequenceStep,
  "handover.point": point,
  "handover.accept": accept,
  "handover.close": close,
  "handover.reopen": reopen,
  despite,
  undo,
} as const;
