import type { Condition, Port, Route, Source } from "../../../core/model/types";
import { PICTURE } from "../car/plugs";
import { all, during, FEMALE, half, has, hears, IN_REVERSE, MALE, not, port, set, takes } from "../vocabulary";
import { alive } from "./alive";
import type { RadioFeatures, RadioPlace } from "./features";
import { pictureContacts, SOCKET } from "./plugs";

type Draft = { ports: Port[]; sources: Source[]; routes: Route[] };

export function addPicture(
  f: RadioFeatures,
  s: NonNullable<RadioFeatures["screen"]>,
  place: RadioPlace,
  camera: boolean,
  to: Draft,
): void {
  to.ports.push(port("video", "picture socket", half(s.plug, MALE), pictureContacts("out")));
  const reversing: Condition = place.reverseWire
    ? { any: [IN_REVERSE, has(`main.${place.pins.reverse}`)] }
    : IN_REVERSE;
  const notReversing = camera ? [not(reversing)] : [];
  const mirrored = all(set("mirroring", "open"), during("source", "usb"), during("pictureMode", "phone"));
  to.sources.push({
    id: "menu",
    at: ["video.v"],
    attributes: { picture: "factory", format: "native" },
    when: all(
      ...notReversing,
      ...(f.mirroring === "after update" ? [not(mirrored)] : []),
      ...(f.videoIn ? [not(all(during("pictureMode", "phone"), set("autoReturn", "off")))] : []),
      alive(f),
    ),
    settleMs: 400,
  });
  to.routes.push({ id: "touch", from: "video.t", to: "heard.touch" });
  if (camera) {
    to.ports.push(port("camera", "camera input", half(PICTURE, MALE), [takes("1", "compositeVideo")]));
    to.routes.push({ id: "camera", from: "camera.1", to: "video.v", when: reversing, settleMs: 300 });
  }
  if (f.videoIn) {
    to.ports.push(
      port("videoIn", "video input", half({ family: "Round plug", ways: 1, colour: "yellow" }, FEMALE), [
        takes("1", "compositeVideo"),
      ]),
    );
    const passenger: Condition[] = place.bus ? [hears("passengerScreen")] : [];
    const still: Condition = { any: [{ situation: "speedKmh", atMost: 5 }, ...passenger] };
    const wanted = all(during("pictureMode", "phone"), set("autoReturn", "off"), ...notReversing);
    for (const [value, format] of [
      ["original", "with bars"],
      ["wide", s.format],
    ] as const)
      to.routes.push({
        id: `external-${value}`,
        from: "videoIn.1",
        to: "video.v",
        when: all(wanted, still, set("videoFormat", value)),
        set: { format },
        settleMs: 800,
      });
    to.sources.push({
      id: "lock",
      at: ["video.v"],
      attributes: { picture: "lock notice", format: "native" },
      when: all(wanted, { situation: "speedKmh", atLeast: 6 }, ...passenger.map(not)),
    });
  }
  if (f.mirroring === "after update") {
    to.ports.push(port("usb2", "second socket input", half({ ...SOCKET, colour: "green" }, MALE), [takes("1", "usb")]));
    to.routes.push({
      id: "mirror",
      from: "usb.1",
      to: "video.v",
      when: all(mirrored, has("usb.1", { lane: "first" }), has("usb2.1", { lane: "second" }), ...notReversing),
      set: { picture: "phone", format: s.format },
      settleMs: 4000,
    });
  }
}
