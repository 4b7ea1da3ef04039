import type { Point } from './gazetteer.ts';

/** The earth's mean radius in metres (IUGG). */
const radius = 6_371_008.8;
const radians = (degrees: number): number => (degrees * Math.PI) / 180;

/** Metres between two points as the crow flies, on a sphere (the haversine formula: R. W. Sinnott, Sky and Telescope 68, 1984). */
export function metresBetween([lat, lon]: Point, [otherLat, otherLon]: Point): number {
  const half =
    Math.sin(radians(otherLat - lat) / 2) ** 2 +
    Math.cos(radians(lat)) * Math.cos(radians(otherLat)) * Math.sin(radians(otherLon - lon) / 2) ** 2;
  return 2 * radius * Math.asin(Math.min(1, Math.sqrt(half)));
}

/** How much longer the way is than the line through the air (R. H. Ballou and others 2002: 1.2 to 1.4 in most countries). */
const detour = 1.3;

/** Minutes it takes to get from one point to another so many metres away: on foot at 5 km/h, or driving at 40 km/h with ten minutes to get in, park and walk up, whichever is sooner. */
export function minutesFor(metres: number): number {
  const way = metres * detour;
  return Math.ceil(Math.min((way / 5000) * 60, 10 + (way / 40_000) * 60));
}
