import { describe, expect, it } from "vitest";
import { screenMaterial, vary } from "../src/view/screen";

describe("parts of a shader", () => {
  it("are built in or left out, and it is built anew only where that changes", () => {
    const material = screenMaterial("void main() {}", {});
    const before = material.version;
    vary(material, "FOG", false);
    expect([material.version, "FOG" in material.defines]).toEqual([before, false]);
    vary(material, "FOG", true);
    expect([material.version, material.defines.FOG]).toEqual([before + 1, 1]);
    vary(material, "FOG", true);
    vary(material, "SEEN", true);
    expect(material.version).toBe(before + 2);
    vary(material, "FOG", false);
    expect(Object.keys(material.defines)).toEqual(["SEEN"]);
  });
});
