import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Answer, adopt, ageMs, flush, forget, isOpen, push, settle, type Waiting } from "./outbox";

const entry = (id: string, more: Partial<Waiting> = {}): Waiting => ({
  id,
  body: { kind: "strip.step", data: { step: id, direction: "in" } },
  at: "2026-03-02T08:00:00.000Z",
  tick: 1000,
  session: "a",
  by: "Ada",
  ...more,
});
const wallMs = Date.parse("2026-03-02T08:10:00.000Z");

describe("the age of a tick", () => {
  it("comes from the clock that nobody sets while the page stays open", () => {
    expect(ageMs(entry("x"), { wallMs: wallMs + 86_400_000, tickMs: 4000, session: "a" })).toBe(3000);
    expect(ageMs(entry("x"), { wallMs: 0, tickMs: 4000, session: "a" })).toBe(3000);
  });

  it("comes from the wall clock after a reload, and is nothing when that ran backwards", () => {
    expect(ageMs(entry("x"), { wallMs, tickMs: 5, session: "b" })).toBe(600_000);
    expect(ageMs(entry("x"), { wallMs: wallMs - 3_600_000, tickMs: 5, session: "b" })).toBe(0);
  });
});

describe("flushing", () => {
  it("stops at the first without answer and keeps everything behind it", async () => {
    const list = ["a", "b", "c"].map((id) => entry(id));
    const sent: string[] = [];
    const flushed = await flush(list, "Ada", async (w) => {
      sent.push(w.id);
      return w.id === "b" ? { kind: "later", why: "offline" } : { kind: "taken" };
    });
    expect(sent).toEqual(["a", "b"]);
    expect(flushed).toEqual({ taken: ["a"], refused: [], stopped: "offline" });
    expect(
      settle(list, flushed)
        .filter(isOpen)
        .map((w) => w.id),
    ).toEqual(["b", "c"]);
  });

  it("does not send under one name what another has done, until that is taken over on purpose", async () => {
    const list = [entry("a"), entry("b", { by: "Ben" }), entry("c")];
    const taken: Answer = { kind: "taken" };
    const flushed = await flush(list, "Ada", async () => taken);
    expect(flushed).toMatchObject({ taken: ["a"], stopped: "otherPerson" });
    const left = settle(list, flushed);
    expect((await flush(left, "Ben", async () => taken)).taken).toEqual(["b"]);
    const adopted = adopt(left, "Ada");
    expect(adopted.map((w) => w.by)).toEqual(["Ada", "Ada", "Ada"]);
    expect((await flush(adopted, "Ada", async () => taken)).taken).toEqual(["b", "c"]);
  });

  it("sets a refused one aside with its reason and goes on", async () => {
    const list = ["a", "b", "c"].map((id) => entry(id));
    const answer = async (w: Waiting): Promise<Answer> =>
      w.id === "b" ? { kind: "refused", message: "battery is connected" } : { kind: "taken" };
    const left = settle(list, await flush(list, "Ada", answer));
    expect(left).toMatchObject([
      { id: "a", sent: true },
      { id: "b", refused: "battery is connected" },
      { id: "c", sent: true },
    ]);
    expect(forget(left, new Set(["a"])).map((w) => w.id)).toEqual(["b", "c"]);
    expect((await flush(left, "Ada", answer)).refused).toEqual([]);
  });

  it("keeps one of two with the same identifier", () => {
    expect(push(push([], entry("a")), entry("a"))).toHaveLength(1);
  });

  it("loses nothing, doubles nothing and keeps the order, however the connection behaves", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.constantFrom("add", "send"), { minLength: 1, maxLength: 60 }),
        fc.infiniteStream(fc.constantFrom("taken", "lost answer", "offline", "server")),
        async (steps, fate) => {
          const stored: string[] = [];
          let list: Waiting[] = [];
          let n = 0;
          const send = async (w: Waiting): Promise<Answer> => {
            const how = fate.next().value;
            // An entry whose answer got lost is with the server already; sent again it changes nothing.
            if (how === "taken" || how === "lost answer") if (!stored.includes(w.id)) stored.push(w.id);
            if (how === "taken") return { kind: "taken" };
            return { kind: "later", why: how === "server" ? "server" : "offline" };
          };
          for (const step of steps) {
            if (step === "add") list = push(list, entry(`e${n++}`));
            else list = settle(list, await flush(list, "Ada", send));
          }
          const whole = [
            ...stored,
            ...list
              .filter(isOpen)
              .map((w) => w.id)
              .filter((id) => !stored.includes(id)),
          ];
          expect(whole).toEqual(Array.from({ length: n }, (_, i) => `e${i}`));
        },
      ),
    );
  });
});
