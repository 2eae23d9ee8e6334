import { responseTime, type TimeTaken } from "../../../camera/response-time";
import { asAsked, type Kind, type Noted, noted, unknown } from "../../kind";

interface ReverseTimeData {
  camera: string;
  taken: TimeTaken;
}

interface ReverseTimeSlice {
  /** By camera, from selecting reverse to its picture. */
  reverseTimes: Map<string, Noted<TimeTaken>>;
}

/** The time from selecting reverse to the picture was taken. */
export const reverseTime: Kind<"prove.reverseTime", ReverseTimeData, ReverseTimeSlice> = {
  kind: "prove.reverseTime",
  empty: () => ({ reverseTimes: new Map() }),
  fold(state, entry) {
    state.reverseTimes.set(entry.data.camera, noted(entry.data.taken, entry));
  },
  check: (job, { camera }) => (job.camera(camera) === null ? unknown("camera", camera) : null),
  write: asAsked,
  words({ camera, taken }, job) {
    const { seconds } = responseTime(taken);
    const how = taken.by === "stopwatch" ? "by stopwatch" : `${taken.frames} frames of a video`;
    return `${job.camera(camera) ?? "A camera that is no longer in the plan"}: picture ${seconds.toFixed(2)} s after reverse, ${how}`;
  },
  upgrade: [],
};
