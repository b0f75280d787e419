import { describe, expect, it } from "vitest";
import { hasLip, SHAPES, shapeOf } from "./foldedShapes";

const mm = (text: string) => ({ text, unit: "mm" as const });

describe("shapes of folded parts", () => {
  it("stand on the edges that their bends run along", () => {
    expect(Object.keys(shapeOf("channel", "lying", "u", mm("30"), mm("12")))).toEqual(["front", "back"]);
    expect(Object.keys(shapeOf("channel", "lying", "v", mm("30"), mm("12")))).toEqual(["left", "right"]);
    expect(Object.keys(shapeOf("tray", "facing_front", "u", mm("30"), mm("12")))).toHaveLength(4);
    expect(shapeOf("flat", "lying", "u", mm("30"), mm("12"))).toEqual({});
  });

  it("bend a zed's flanges opposite ways and a hat's brims outward", () => {
    const zed = shapeOf("zed", "lying", "u", mm("30"), mm("12")) as Record<string, { toward?: string }>;
    expect([zed.front.toward, zed.back.toward]).toEqual(["b", undefined]);
    const hat = shapeOf("hat", "lying", "u", mm("30"), mm("12")) as Record<
      string,
      { toward?: string; on?: string; length: unknown }
    >;
    expect(hat.front_lip).toMatchObject({ on: "front", toward: "b", length: mm("12") });
    expect(SHAPES.filter((s) => hasLip(s.value)).map((s) => s.value)).toEqual(["hat", "sill"]);
  });
});
