import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "./library";
import { ProfileError, readProfile } from "./read";

describe("profiles", () => {
  it("ships documents that pass the same door as an upload", () => {
    expect(
      shippedLibrary()
        .slice(0, 3)
        .map((p) => p.document),
    ).toEqual(["car", "variant", "kit"]);
  });

  it("survives writing and reading", () => {
    const { kit } = demoDocuments();
    expect(readProfile(JSON.stringify(kit))).toEqual(kit);
  });

  it.each([
    ["{", /file: it is not JSON/],
    ["[]", /document/],
    ['{"document":"boat"}', /document: /],
  ])("refuses %s with place and remedy", (json, message) => {
    expect(() => readProfile(json)).toThrow(message);
    expect(() => readProfile(json)).toThrow(ProfileError);
  });

  it("names the part, port and contact of a wrong value", () => {
    const { car } = demoDocuments();
    const text = JSON.stringify(car).replace('"kind":"reverse"', '"kind":"moonlight"');
    expect(() => readProfile(text)).toThrow(
      /parts\[1\] \(Car loom\) › ports\[1\] \(body\) › contacts\[5\] \(6\) › kind/,
    );
  });

  it("refuses a field it does not know and a part the model cannot evaluate", () => {
    const { car } = demoDocuments();
    expect(() => readProfile(JSON.stringify({ ...car, colour: "red" }))).toThrow(/colour/);
    const lost = structuredClone(car);
    lost.parts[0]?.sources?.push({ id: "ghost", at: ["posts.99"] });
    expect(() => readProfile(JSON.stringify(lost))).toThrow(/there is no contact posts\.99/);
    const loop = structuredClone(car);
    loop.stripPlan.steps[0]?.after.push("radio-out");
    expect(() => readProfile(JSON.stringify(loop))).toThrow(/wait for each other/);
  });
});
