import type { Feature, Point } from './gazetteer.ts';

/** Metres that a degree of latitude is long: the earth's mean radius of 6,371,008.8 m (IUGG) times π / 180. */
const metresOfDegree = (6_371_008.8 * Math.PI) / 180;

/** How tall a sketch is, as a share of its width. */
export const sketchShape = 0.62;

/** What is around a place: metres east and north of it. */
export interface Sketch {
  /** Metres from the place to the edges east and west. */
  reach: number;
  features: {
    name: string;
    kind: Feature['kind'];
    line: { east: number; north: number }[];
    /** Where its name stands; null where there is no room for it. */
    label: { east: number; north: number } | null;
  }[];
}

/**
 * Metres east and north of a place, on a plane that touches the earth there; right to a thousandth within ten kilometres
 * and away from the poles.
 */
export function offsetFrom([latitude, longitude]: Point, [lat, lon]: Point): { east: number; north: number } {
  const across = ((((lon - longitude + 540) % 360) + 360) % 360) - 180;
  return {
    east: Math.round(across * Math.cos((latitude * Math.PI) / 180) * metresOfDegree),
    north: Math.round((lat - latitude) * metresOfDegree),
  };
}

type Offset = ReturnType<typeof offsetFrom>;
const steps = 12;

/** Points along a line, its corners among them. */
const along = (line: readonly Offset[]): Offset[] =>
  line.flatMap((from, at) => {
    const to = line[at + 1];
    if (!to) return [from];
    return Array.from({ length: steps }, (_, n) => ({
      east: Math.round(from.east + ((to.east - from.east) * n) / steps),
      north: Math.round(from.north + ((to.north - from.north) * n) / steps),
    }));
  });

const inside = ({ east, north }: Offset, reach: number): boolean =>
  Math.abs(east) <= reach && Math.abs(north) <= reach * sketchShape;

/**
 * A sketch of what lies within some metres of a place. A name stands where its line runs within the picture, away from the
 * place itself and from other names; one that has no room is left out. Null where the place has no coordinates or nothing
 * is known around it.
 */
export function sketchOf(
  place: { latitude: number | null; longitude: number | null },
  features: readonly Feature[],
  reach = 700,
): Sketch | null {
  const { latitude, longitude } = place;
  if (latitude === null || longitude === null) return null;
  const near = features
    .map((f) => ({ ...f, line: f.line.map((point) => offsetFrom([latitude, longitude], point)) }))
    .map((f) => ({ ...f, seen: along(f.line).filter((point) => inside(point, reach)) }))
    .filter((f) => f.seen.length > 0);
  if (!near.length) return null;
  // How wide and how high letters are, as shares of the picture, decides how far apart names stand.
  const letter = reach * 0.038;
  const high = reach * 0.09;
  const taken: { from: Offset; half: number }[] = [
    { from: { east: 0, north: 0 }, half: letter * 2 },
    // Where the rod stands, as the picture draws it.
    { from: { east: -reach * 0.8, north: -reach * (sketchShape - 0.08) }, half: reach * 0.2 },
  ];
  const labelled = near.map(({ name, kind, line, seen }) => {
    const half = ((name.length + 1) * letter) / 2;
    const free = seen.filter(
      (at) =>
        Math.abs(at.east) + half < reach &&
        Math.abs(at.north) + high < reach * sketchShape &&
        taken.every(
          (t) => Math.abs(t.from.north - at.north) > high || Math.abs(t.from.east - at.east) > t.half + half,
        ),
    );
    const label = free[Math.floor(free.length / 2)] ?? null;
    if (label) taken.push({ from: label, half });
    return { name, kind, line, label };
  });
  return { reach, features: labelled };
}
