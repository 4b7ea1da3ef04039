/** How a time of day is said: 13:30, or 1:30 pm. */
export type ClockFace = 12 | 24;

let asked: () => ClockFace = () => 24;

/** Tells how to find the clock of whoever reads: on the screens it is one, on a server that of the request. */
export const faceAs = (find: () => ClockFace): void => {
  asked = find;
};

/** The clock of whoever reads. */
export const face = (): ClockFace => asked();

/** A time of day ("13:30") as it is said; in French it is always said by the 24-hour clock. */
export function sayTimeOfDay(time: string, language: string): string {
  if (face() === 24 || language === 'fr') return time;
  const hour = Number(time.slice(0, 2));
  const minutes = time.slice(3, 5);
  return `${hour % 12 || 12}:${minutes} ${hour < 12 ? 'am' : 'pm'}`;
}
