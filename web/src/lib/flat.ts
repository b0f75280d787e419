// What of a flat is a line on it, and no outline of anything.
const LINES = ["mark", "note", "bend-up", "bend-down"];

export const isLine = (c: { operation: string }): boolean => LINES.includes(c.operation);
