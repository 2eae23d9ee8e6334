/** Facts of cars and parts that are numbers: what each is called and between which limits it can be. */

/** By name; the unit stands at its end. Limits as wide as anything on four wheels needs them: our own judgement. */
export const FIGURES = {
  wheelbaseMm: { label: "Wheelbase", unit: "mm", min: 1500, max: 6000 },
  frontOverhangMm: { label: "Front overhang", unit: "mm", min: 300, max: 2000 },
  rearOverhangMm: { label: "Rear overhang", unit: "mm", min: 200, max: 3000 },
  widthMm: { label: "Width without mirrors", unit: "mm", min: 1000, max: 2600 },
  steeringRatio: { label: "Steering ratio", unit: "", min: 8, max: 30 },
  steeringLockDeg: { label: "Road wheel at full lock", unit: "°", min: 15, max: 60 },
  eyeToScreenMm: { label: "Driver's eye to the screen", unit: "mm", min: 300, max: 1500 },
  screenWidthMm: { label: "Width of the picture", unit: "mm", min: 40, max: 800 },
  screenHeightMm: { label: "Height of the picture", unit: "mm", min: 20, max: 600 },
  cameraHeightMm: { label: "Camera over the ground", unit: "mm", min: 150, max: 2500 },
  cameraBackMm: { label: "Camera behind the edge of the bumper", unit: "mm", min: -300, max: 1500 },
  bumperHeightMm: { label: "Upper edge of the bumper over the ground", unit: "mm", min: 200, max: 1500 },
  cameraPitchDeg: { label: "Camera pointed down by", unit: "°", min: -10, max: 90 },
  lensDeg: { label: "Angle of the lens across", unit: "°", min: 30, max: 220 },
  pictureShape: { label: "Picture of the camera, width by height", unit: "", min: 1, max: 2.4 },
} as const satisfies Record<string, { label: string; unit: string; min: number; max: number }>;

export type FigureName = keyof typeof FIGURES;
export type Figures = Readonly<Partial<Record<FigureName, number>>>;

/** Figures in words, in the order of the list: `Wheelbase 2610 mm`. */
export function figureWords(figures: Figures): string[] {
  return (Object.keys(FIGURES) as FigureName[]).flatMap((name) => {
    const value = figures[name];
    if (value === undefined) return [];
    const { label, unit } = FIGURES[name];
    return `${label} ${value}${unit === "" || unit === "°" ? unit : ` ${unit}`}`;
  });
}
