import { describe, expect, test } from "vitest";
import { duration, figure, length, value } from "./figures";

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
});
