// The stations that a job goes through, in order: the one list that job line, shortcuts, quick bar and bench read.
export const TITLES = { sizes: "Sizes", build: "Build", flats: "Flats", nest: "Nest", shop: "Shop" };

export type Station = keyof typeof TITLES;
export const STATIONS = Object.keys(TITLES) as Station[];

/** Something of each station. */
export function ofEach<T>(make: (station: Station, place: number) => T): Record<Station, T> {
  return Object.fromEntries(STATIONS.map((s, i) => [s, make(s, i)])) as Record<Station, T>;
}
