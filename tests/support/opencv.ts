/** Debian's python3-opencv as a second opinion on cameras; all questions of a test in one call. */
import { execFileSync } from "node:child_process";

const SCRIPT = `
import sys, json, numpy as np, cv2
def one(q):
    a = lambda k, *s: np.array(q[k], float).reshape(*s)
    if q["op"] == "perspective":
        return cv2.perspectiveTransform(a("points", -1, 1, 2), cv2.getPerspectiveTransform(a("from", 4, 2).astype(np.float32), a("to", 4, 2).astype(np.float32))).reshape(-1, 2)
    K = a("K", 3, 3); D = a("terms", -1, 1)
    if q["op"] == "pnp":
        ok, r, t = cv2.solvePnP(a("points", -1, 1, 3), a("image", -1, 1, 2), K, D)
        return dict(R=cv2.Rodrigues(r)[0].tolist(), t=t.ravel().tolist())
    r = cv2.Rodrigues(a("R", 3, 3))[0]; t = a("t", 3, 1)
    f = cv2.fisheye.projectPoints if q["op"] == "fisheye" else cv2.projectPoints
    return f(a("points", -1, 1, 3), r, t, K, D)[0].reshape(-1, 2)
def plain(v): return v.tolist() if isinstance(v, np.ndarray) else v
json.dump([plain(one(q)) for q in json.load(sys.stdin)], sys.stdout)
`;

interface Projection {
  op: "straight" | "fisheye";
  points: readonly (readonly number[])[];
  /** Rotation from the ground to the camera, row by row, and translation. */
  R: readonly (readonly number[])[];
  t: readonly number[];
  /** Camera matrix, row by row. */
  K: readonly (readonly number[])[];
  /** straight: k1 k2 p1 p2 k3; fisheye: k1 k2 k3 k4. */
  terms: readonly number[];
}

interface PoseOf extends Omit<Projection, "op" | "R" | "t"> {
  op: "pnp";
  image: readonly (readonly number[])[];
}

interface Perspective {
  op: "perspective";
  from: readonly (readonly number[])[];
  to: readonly (readonly number[])[];
  points: readonly (readonly number[])[];
}

type Pairs = [number, number][];

export function opencv(questions: readonly (Projection | Perspective)[]): Pairs[];
export function opencv(questions: readonly PoseOf[]): { R: number[][]; t: number[] }[];
export function opencv(questions: readonly unknown[]): unknown[] {
  const answer = execFileSync("/usr/bin/python3", ["-c", SCRIPT], {
    input: JSON.stringify(questions),
    encoding: "utf8",
    maxBuffer: 1 << 26,
  });
  return JSON.parse(answer);
}
