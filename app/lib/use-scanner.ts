import { type RefObject, useEffect, useState } from "react";

/** The part of the browser's code reader that is used; few desktop browsers have one. */
interface Detector {
  detect(source: HTMLVideoElement): Promise<{ rawValue: string }[]>;
}
type DetectorClass = new (options: { formats: string[] }) => Detector;

const READ_EVERY_MS = 250;

function detectorClass(): DetectorClass | undefined {
  return (globalThis as { BarcodeDetector?: DetectorClass }).BarcodeDetector;
}

/** True when this device can read codes by its camera. */
export function canScan(): boolean {
  return detectorClass() !== undefined && navigator.mediaDevices !== undefined;
}

/**
 * Reads codes from the device camera while it is on; the picture never leaves the device.
 *
 * @returns why the camera cannot be used, or null
 */
export function useScanner(video: RefObject<HTMLVideoElement | null>, on: boolean, found: (text: string) => void) {
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    const Reader = detectorClass();
    if (!on || !Reader) return;
    let stream: MediaStream | null = null;
    let timer: ReturnType<typeof setInterval> | undefined;
    let over = false;
    navigator.mediaDevices
      .getUserMedia({ video: { facingMode: "environment" } })
      .then(async (s) => {
        if (over || !video.current) {
          for (const track of s.getTracks()) track.stop();
          return;
        }
        stream = s;
        video.current.srcObject = s;
        await video.current.play();
        const reader = new Reader({ formats: ["qr_code"] });
        timer = setInterval(async () => {
          const codes = video.current ? await reader.detect(video.current).catch(() => []) : [];
          if (codes[0] && !over) found(codes[0].rawValue);
        }, READ_EVERY_MS);
      })
      .catch(() => setProblem("The camera cannot be used here. Type the code that stands under the square."));
    return () => {
      over = true;
      clearInterval(timer);
      for (const track of stream?.getTracks() ?? []) track.stop();
    };
  }, [on, video, found]);
  return problem;
}
