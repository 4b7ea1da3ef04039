import type { InsideRow } from '#contract/doors.ts';
import { sayPhone } from '#core/contacts/reach.ts';
import { sayTime } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import { isMinor } from '#core/waivers/needs.ts';
import type { Work } from '../app/app.ts';
import { logCare } from '../contacts/seeing.ts';
import type { EventRow } from '../events/store.ts';
import { listPdf } from '../print/lists.ts';
import { theOrganization } from '../staff/store.ts';
import { collectorsAt, readInside } from './store.ts';

/** Everybody who is inside, children first, with whom to call for them. That somebody read it is written down. */
export async function insideNow(
  w: Pick<Work, 'tx' | 'app' | 'now' | 'actor'>,
  event: EventRow,
): Promise<InsideRow[]> {
  const { country, ageOfMajority } = await theOrganization(w.tx);
  const day = event.startsLocal?.slice(0, 10) ?? w.now.slice(0, 10);
  const read = await readInside(w.tx, event.id);
  if (read.length)
    await logCare(
      w,
      'doors',
      read.map(({ contactId }) => ({ contactId, eventId: event.id })),
    );
  const collectors = event.doors.handover
    ? await collectorsAt(w.tx, event.id, null)
    : new Map<string, string[]>();
  const mayCollect = (key: string, buyer: string | null): string[] => [
    ...new Set([buyer, ...(collectors.get(key.replace('seat ', '')) ?? [])].filter((n) => n !== null)),
  ];
  return read
    .map(({ contactId: _, birthDate, saidMinor, callName, callPhone, buyer, ...row }) => ({
      ...row,
      minor: isMinor({ birthDate, saidMinor }, day, ageOfMajority),
      collect:
        event.doors.handover && row.part === 'seat' && isMinor({ birthDate, saidMinor }, day, ageOfMajority)
          ? mayCollect(row.key, buyer)
          : [],
      call: [callName, callPhone && sayPhone(callPhone, country)].filter(Boolean).join(', '),
    }))
    .sort((a, b) => Number(b.minor) - Number(a.minor) || a.name.localeCompare(b.name));
}

/** The same on paper, with a box to tick for each. */
export const insidePdf = (event: EventRow, rows: readonly InsideRow[], now: string): Promise<Buffer> =>
  listPdf(
    {
      title: event.publicTitle,
      about: `Inside at ${sayTime(wallOf(now, event.zone), 'en')}: ${rows.length}, of whom under age: ${rows.filter((r) => r.minor).length}`,
    },
    [
      { heading: 'Name', width: 190 },
      { heading: '', width: 70 },
      { heading: 'Since', width: 50 },
      { heading: 'Call', width: 180 },
    ],
    rows.map((r) => [
      r.name,
      r.minor ? 'under age' : r.part === 'crew' ? 'crew' : '',
      r.since ? sayTime(wallOf(r.since, event.zone), 'en') : '',
      r.call,
    ]),
  );
