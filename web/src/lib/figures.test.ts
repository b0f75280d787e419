import { describe, expect, test } from "vitest";
import { angle, area, distance, duration, figure, length, lengths, mass, money, percent, plural, unitOf, value } from "./figures";

describe("figures", () => {
  test("a rounded figure says so, an exact one does not", () => {
    expect(length(0.248 * 25.4, "fraction")).toBe("≈1/4 in");
    expect(length(0.25 * 25.4, "fraction")).toBe("1/4 in");
    expect(length(0.248 * 25.4, "in")).toBe("0.248 in");
    expect(length(12.3456, "mm")).toBe("≈12.35 mm");
    expect(length(12.3, "mm")).toBe("12.3 mm");
  });
  test("whole inches, mixed numbers and negatives read as on a rule", () => {
    expect(figure(30.5 * 25.4, "fraction")).toBe("30-1/2");
    expect(figure(0, "fraction")).toBe("0");
    expect(figure(-1.5 * 25.4, "fraction")).toBe("-1-1/2");
    expect(figure(25.4, "fraction")).toBe("1");
  });
  test("other kinds", () => {
    expect(value({ value: Math.PI / 4, kind: "angle" }, "mm")).toBe("45°");
    expect(value({ value: 7, kind: "count" }, "in")).toBe("7");
    expect(duration(75)).toBe("75 s");
    expect(duration(3 * 3600)).toBe("3 h 00 min");
  });
  test("a negative that is nothing has no sign, and a small one says that it was rounded", () => {
    expect([figure(-0.0001, "mm"), figure(-0, "mm"), figure(-0.004, "fraction"), figure(0.1 + 0.2, "mm")]).toEqual([
      ...["≈0", "0", "≈0", "0.3"],
    ]);
    expect([figure(25.4 * (3 / 64), "fraction"), figure(25.4 * 2.9999, "fraction")]).toEqual(["3/64", "≈3"]);
    expect(figure(-25.4 / 3, "fraction")).toBe("≈-21/64");
  });
  test("each quantity has its unit in both systems", () => {
    expect([unitOf("mm"), unitOf("in"), unitOf("fraction")]).toEqual(["mm", "in", "in"]);
    expect(lengths([420, 240.5], "mm")).toBe("420 × 240.5 mm");
    expect(lengths([25.4, 12.7], "fraction")).toBe("1 × 1/2 in");
    expect([area(12345, "mm"), area(12345, "in"), area(645.16, "fraction")]).toEqual(["123.5 cm²", "19.13 in²", "1.00 in²"]);
    expect([distance(12345, "mm"), distance(3048, "in"), distance(3048, "fraction")]).toEqual(["12.3 m", "10.0 ft", "10.0 ft"]);
    expect([angle(Math.PI / 7), angle(-Math.PI / 2)]).toEqual(["≈25.71°", "-90°"]);
    expect(value({ value: 12.7, kind: "length" }, "in")).toBe("0.5 in");
    expect(value({ value: 1 / 3, kind: "number" }, "mm")).toBe("≈0.3333");
    expect(value({ value: Math.PI / 7, kind: "angle" }, "mm")).toBe("≈25.71°");
  });
  test("money, mass, time, shares and counts", () => {
    expect(money(12.345, "EUR")).toMatch(/^12\.3[45] EUR$/);
    expect([mass(999.4), mass(1000), mass(12345)]).toEqual(["999\u00a0g", "1.00\u00a0kg", "12.35\u00a0kg"]);
    expect([duration(89.4), duration(90), duration(89.5 * 60), duration(5 * 3600 + 7 * 60)]).toEqual([
      ...["89 s", "2 min", "1 h 30 min", "5 h 07 min"],
    ]);
    expect([duration(89 * 60), percent(0.126), plural(1, "part"), plural(2, "part"), plural(0, "box", "boxes")]).toEqual([
      ...["89 min", "13 %", "1 part", "2 parts", "0 boxes"],
    ]);
  });
});
