import { type Wrong, wrongAt } from '#core/words/problems.ts';

/** How a room can be set up, and how many it holds then. */
export interface Layout {
  name: string;
  capacity: number;
}

/** A layout as it is typed, its number behind its name: "Tables of eight 128". Null where there is no number, or no name. */
export function readLayout(typed: string): Layout | null {
  const match = /^(?<name>.*\S)[\s:,]+(?<capacity>\d{1,6})$/u.exec(typed.trim());
  if (!match?.groups) return null;
  const name = match.groups.name!.replace(/[\s:,]+$/u, '');
  return name ? { name, capacity: Number(match.groups.capacity) } : null;
}

/** What is wrong with the layouts of rooms as they are typed: one without its number. */
export const wrongLayouts = (rooms: readonly { layouts: readonly string[] }[]): Wrong[] =>
  rooms.flatMap((room, at) =>
    room.layouts.some((typed) => !readLayout(typed)) ? [wrongAt(`rooms.${at}.layouts`, 'layout-number')] : [],
  );

export const sayLayout = ({ name, capacity }: Layout): string => `${name} ${capacity}`;
