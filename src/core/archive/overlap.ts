import type { Archive, Visits } from './archive.ts';

/** The audience of one kind of event. */
export interface Audience {
  kind: string;
  title: string;
  people: number;
}

/** Who came to both of two kinds. */
export interface Shared {
  a: string;
  b: string;
  people: number;
  /** How many times as many as there would be if who comes to one came to the other like anybody else. */
  times: number;
}

/** The largest audiences, and what each two of them share. */
export function overlapOf(
  { events, people }: Archive,
  visits: Visits,
  most = 10,
): { audiences: Audience[]; shared: Shared[] } {
  const kinds = new Map<string, { title: string; index: number; people: number }>();
  for (const e of events) {
    if (!e.over && kinds.has(e.kind)) continue;
    const kind = kinds.get(e.kind) ?? { title: e.title, index: kinds.size, people: 0 };
    kind.title = e.title;
    kinds.set(e.kind, kind);
  }
  const indexOf = Int32Array.from(events, (e) => kinds.get(e.kind)!.index);
  const size = kinds.size;
  const alone = new Int32Array(size);
  const seen = new Int32Array(size).fill(-1);
  // Of each person the kinds they came to, once each.
  const each = (person: number, found: number[]): void => {
    found.length = 0;
    for (let n = visits.start[person]!; n < visits.start[person + 1]!; n++) {
      const kind = indexOf[visits.event[n]!]!;
      if (seen[kind] === person) continue;
      seen[kind] = person;
      found.push(kind);
    }
  };
  const found: number[] = [];
  let came = 0;
  for (let p = 0; p < people; p++) {
    each(p, found);
    if (found.length) came += 1;
    for (const kind of found) alone[kind]! += 1;
  }
  const shown = [...kinds]
    .map(([kind, { title, index }]) => ({ kind, title, index, people: alone[index]! }))
    .filter((k) => k.people > 0)
    .sort((a, b) => b.people - a.people || (a.title < b.title ? -1 : 1))
    .slice(0, most);
  const place = new Int32Array(size).fill(-1);
  for (const [at, { index }] of shown.entries()) place[index] = at;
  const both = new Int32Array(shown.length * shown.length);
  seen.fill(-1);
  for (let p = 0; p < people; p++) {
    each(p, found);
    for (const a of found)
      for (const b of found)
        if (place[a]! >= 0 && place[b]! > place[a]!) both[place[a]! * shown.length + place[b]!]! += 1;
  }
  return {
    audiences: shown.map(({ kind, title, people: n }) => ({ kind, title, people: n })),
    shared: shown.flatMap((a, at) =>
      shown.slice(at + 1).map((b, n) => {
        const count = both[at * shown.length + at + 1 + n]!;
        const expected = came ? (a.people * b.people) / came : 0;
        return { a: a.kind, b: b.kind, people: count, times: expected ? count / expected : 0 };
      }),
    ),
  };
}
