// The units of length that a maker may type, with their factors to millimetres: the core's list (a test holds the two together).
export const INCH = 25.4;
export const LENGTH_UNITS: Record<string, number> = {
  mm: 1,
  cm: 10,
  m: 1000,
  in: INCH,
  '"': INCH,
  ft: 12 * INCH,
  "'": 12 * INCH,
};
