import type { FigureName } from "~/core/model/figures";
import type { ShownCamera } from "./measure-camera";

/** A figure of the car or the screen as it is known for a camera. */
export function figure({ figures }: ShownCamera, name: FigureName): number | null {
  return [...figures.steering, ...figures.eye].find((f) => f.name === name)?.value ?? null;
}

/** The bumper that a camera looks over, in metres; null while its edge was not measured. */
export function bumperOf(camera: ShownCamera): { heightM: number; widthM: number } | null {
  const [height, width] = [figure(camera, "bumperHeightMm"), figure(camera, "widthMm")];
  return height === null || width === null ? null : { heightM: height / 1000, widthM: width / 1000 };
}
