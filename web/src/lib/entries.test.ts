import { describe, expect, it } from "vitest";
import { beginning, inInches } from "./entries";

describe("what a draft begins with", () => {
  it("is said in the design's unit", () => {
    expect(beginning("30 mm", "mm")).toEqual({ text: "30 mm", unit: "mm" });
    expect(beginning("30 mm", "in")).toEqual({ text: "1-1/8 in", unit: "in" });
    expect(beginning("0", "in")).toEqual({ text: "0", unit: "in" });
    expect(beginning("left.right", "in")).toEqual({ text: "left.right", unit: "in" });
    expect(beginning("90 deg", "in")).toEqual({ text: "90 deg", unit: "in" });
  });

  it("is a round figure near what it is in millimetres", () => {
    for (const mm of [0.2, 1, 1.5, 2, 3, 4.5, 5, 6, 8, 10, 15, 20, 30, 40, 71.5, 80, 100, 305, 610, 1220]) {
      const text = inInches(mm).replace(" in", "");
      const [whole, part] = text.includes("-") ? text.split("-") : text.includes("/") ? ["0", text] : [text, ""];
      const [top, bottom] = part ? part.split("/").map(Number) : [0, 1];
      const inches = Number(whole) + top / bottom;
      expect(inches).toBeGreaterThan(0);
      expect(Math.abs(inches * 25.4 - mm)).toBeLessThanOrEqual(mm < 1.5 ? 0.013 : mm < 10 ? 0.8 : 1.6);
    }
  });

  it("is said in eighths from 10 mm on, in sixteenths under that, in thousandths under 1.5 mm", () => {
    const said = {
      0.2: "0.008",
      1.49: "0.059",
      1.5: "1/16",
      3: "1/8",
      4.5: "3/16",
      6.2: "1/4",
      8: "5/16",
      9.9: "3/8",
      10: "3/8",
    };
    const larger = { 12.7: "1/2", 20: "3/4", 25.4: "1", 71.5: "2-7/8", 100: "3-7/8", 610: "24", 1222: "48-1/8" };
    for (const [mm, text] of Object.entries({ ...said, ...larger })) expect(inInches(Number(mm))).toBe(`${text} in`);
  });

  it("is left as it is where it is no plain length in millimetres", () => {
    for (const text of ["12 mm + 3", "x12 mm", "12mm", "12. mm", "1 in"])
      expect(beginning(text, "in")).toEqual({ text, unit: "in" });
    expect(beginning("12.7 mm", "in")).toEqual({ text: "1/2 in", unit: "in" });
  });
});
