import { ERROR, EXTENDED, FAST, FD, FD_LENGTHS, PASSIVE, REMOTE } from "../frames";
import { ERROR_FLAG } from "./candump";
import type { FormatReader, LogFormat, LogSink } from "./format";
import { hexOf } from "./hex";

/** Captured frames of SocketCAN. Source: LINKTYPE_CAN_SOCKETCAN in the list of link types of tcpdump. */
const LINK_SOCKETCAN = 227;
/** Head of a captured frame: identifier with flags, length, FD flags, two reserved bytes. */
const HEAD = 8;
/** A packet that claims to be longer is none. */
const MOST_PACKET = 1 << 20;

/** Packets of a file: `read` gives how many bytes it took, 0 when more are needed. */
interface PacketFile extends FormatReader {}

/** A capture with link type 227, in the older form. Source: pcap file format, draft-ietf-opsawg-pcap. */
export const pcap: LogFormat = {
  name: "pcap",
  about: "capture of packets with link type 227",
  endings: ["pcap", "cap"],
  unit: "packet",
  recognises: (head) => pcapOrder(head) !== null,
  reader: (sink) => new Pcap(sink),
};

/** A capture with link type 227, in the newer form. Source: pcapng file format, draft-ietf-opsawg-pcapng. */
export const pcapng: LogFormat = {
  name: "pcapng",
  about: "capture of packets with link type 227",
  endings: ["pcapng"],
  unit: "packet",
  recognises: (head) => head.length >= 12 && viewOf(head).getUint32(0) === SECTION && sectionOrder(head) !== null,
  reader: (sink) => new Pcapng(sink),
};

/** Byte order and ticks per second by the magic number; null when it is none. */
function pcapOrder(head: Uint8Array): { little: boolean; ticksPerS: number } | null {
  if (head.length < 24) return null;
  const view = viewOf(head);
  for (const little of [true, false]) {
    const magic = view.getUint32(0, little);
    if (magic === 0xa1b2c3d4) return { little, ticksPerS: 1e6 };
    if (magic === 0xa1b23c4d) return { little, ticksPerS: 1e9 };
  }
  return null;
}

class Pcap implements PacketFile {
  private head: { little: boolean; ticksPerS: number; link: number } | null = null;

  constructor(private readonly sink: LogSink) {}

  read(bytes: Uint8Array, last: boolean): number {
    const view = viewOf(bytes);
    let at = 0;
    if (!this.head) {
      const order = pcapOrder(bytes);
      if (!order) return last ? bytes.length : 0;
      this.head = { ...order, link: view.getUint32(20, order.little) & 0x0fff_ffff };
      if (this.head.link !== LINK_SOCKETCAN) this.sink.notes.push(wrongLink(this.head.link));
      at = 24;
    }
    const { little, ticksPerS, link } = this.head;
    while (at + 16 <= bytes.length) {
      const size = view.getUint32(at + 8, little);
      if (size > MOST_PACKET) {
        this.sink.lines++;
        this.sink.bad("length", `a packet of ${size} bytes cannot be; the capture is damaged from here on`, "");
        return bytes.length;
      }
      if (at + 16 + size > bytes.length) break;
      this.sink.lines++;
      const timeS = view.getUint32(at, little) + view.getUint32(at + 4, little) / ticksPerS;
      if (link === LINK_SOCKETCAN) frame(this.sink, bytes.subarray(at + 16, at + 16 + size), timeS, "can0");
      else this.sink.comments++;
      at += 16 + size;
    }
    return rest(this.sink, bytes, at, last);
  }
}

/** Block types of the newer form. */
const SECTION = 0x0a0d0d0a;
const INTERFACE = 1;
const SIMPLE_PACKET = 3;
const PACKET = 6;
const OPTION_NAME = 2;
const OPTION_RESOLUTION = 9;

function sectionOrder(bytes: Uint8Array, at = 0): boolean | null {
  const magic = viewOf(bytes).getUint32(at + 8, true);
  return magic === 0x1a2b3c4d ? true : magic === 0x4d3c2b1a ? false : null;
}

class Pcapng implements PacketFile {
  private little = true;
  private interfaces: { link: number; ticksPerS: number; name: string }[] = [];

  constructor(private readonly sink: LogSink) {}

  read(bytes: Uint8Array, last: boolean): number {
    const view = viewOf(bytes);
    let at = 0;
    while (at + 12 <= bytes.length) {
      const type = view.getUint32(at, this.little);
      if (type === SECTION) {
        const order = sectionOrder(bytes, at);
        if (order !== null) this.little = order;
        this.interfaces = [];
      }
      const size = view.getUint32(at + 4, this.little);
      if (size < 12 || size % 4 !== 0 || size > MOST_PACKET) {
        this.sink.lines++;
        this.sink.bad("length", `a block of ${size} bytes cannot be; the capture is damaged from here on`, "");
        return bytes.length;
      }
      if (at + size > bytes.length) break;
      this.block(type, bytes.subarray(at + 8, at + size - 4));
      at += size;
    }
    return rest(this.sink, bytes, at, last);
  }

  private block(type: number, body: Uint8Array): void {
    const view = viewOf(body);
    if (type === INTERFACE && body.length >= 8) {
      const link = view.getUint16(0, this.little);
      if (link !== LINK_SOCKETCAN) this.sink.notes.push(wrongLink(link));
      this.interfaces.push({ link, ...this.options(body.subarray(8)) });
      return;
    }
    if (type !== PACKET && type !== SIMPLE_PACKET) return;
    this.sink.lines++;
    if (type === SIMPLE_PACKET)
      return this.sink.bad("time", "this kind of packet has no time; record with time stamps", "");
    const from = body.length >= 20 ? this.interfaces[view.getUint32(0, this.little)] : undefined;
    const size = body.length >= 20 ? view.getUint32(12, this.little) : 0;
    if (!from || 20 + size > body.length)
      return this.sink.bad("shape", "the packet names an interface that the capture does not have, or breaks off", "");
    if (from.link !== LINK_SOCKETCAN) {
      this.sink.comments++;
      return;
    }
    const ticks = view.getUint32(4, this.little) * 2 ** 32 + view.getUint32(8, this.little);
    frame(this.sink, body.subarray(20, 20 + size), ticks / from.ticksPerS, from.name);
  }

  /** Name and resolution of an interface; microseconds unless it says otherwise. */
  private options(bytes: Uint8Array): { name: string; ticksPerS: number } {
    const view = viewOf(bytes);
    const found = { name: `can${this.interfaces.length}`, ticksPerS: 1e6 };
    for (let at = 0; at + 4 <= bytes.length; ) {
      const code = view.getUint16(at, this.little);
      const size = view.getUint16(at + 2, this.little);
      if (code === 0) break;
      const value = bytes.subarray(at + 4, at + 4 + size);
      if (code === OPTION_NAME) found.name = new TextDecoder().decode(value) || found.name;
      const [power = 6] = code === OPTION_RESOLUTION ? value : [];
      if (code === OPTION_RESOLUTION) found.ticksPerS = power & 0x80 ? 2 ** (power & 0x7f) : 10 ** power;
      at += 4 + size + ((4 - (size % 4)) % 4);
    }
    return found;
  }
}

/** What is left of a file that ends in the middle of a packet is said. */
function rest(sink: LogSink, bytes: Uint8Array, at: number, last: boolean): number {
  if (!last || at >= bytes.length) return at;
  sink.lines++;
  sink.bad("shape", "the file ends inside this packet", "");
  return bytes.length;
}

function frame(sink: LogSink, packet: Uint8Array, timeS: number, channel: string): void {
  if (packet.length < HEAD) return sink.bad("shape", "the packet is shorter than the head of a frame", hexOf(packet));
  const word = viewOf(packet).getUint32(0);
  const length = packet[4] as number;
  const bits = packet[5] as number;
  const fd = (bits & 4) !== 0 || length > 8;
  const error = (word & ERROR_FLAG) !== 0;
  const remote = (word & 0x4000_0000) !== 0 && !error;
  const extended = word >>> 31 === 1;
  const id = word & (error || extended ? 0x1fff_ffff : 0x7ff);
  const data = packet.subarray(HEAD, HEAD + length);
  if (!(fd ? FD_LENGTHS : FD_LENGTHS.slice(0, 9)).includes(length as 8) || (!remote && data.length < length))
    return sink.bad("length", `${length} data bytes are announced and ${data.length} are there`, hexOf(packet));
  const kind = fd ? FD | (bits & 1 ? FAST : 0) | (bits & 2 ? PASSIVE : 0) : 0;
  const flags = (error ? ERROR : extended ? EXTENDED : 0) | (remote ? REMOTE : 0) | kind;
  sink.frames.add({ timeS, id, flags, channel: sink.channel(channel), length, data: remote ? [] : data });
}

function wrongLink(link: number): string {
  return `The capture holds packets of link type ${link}; frames of a vehicle bus have ${LINK_SOCKETCAN}. Those packets are counted and not read.`;
}

function viewOf(bytes: Uint8Array): DataView {
  return new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
}
