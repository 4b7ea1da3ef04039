import { writeCsv } from '#core/exchange/csv.ts';
import { wallOf } from '#core/time/wallTime.ts';
import type { SignatureRead } from './signatureStore.ts';

/** Signatures as a file: who, for whom, when, for how long, and what proves it. What was answered about health is not in it. */
export const signaturesCsv = (rows: readonly SignatureRead[], zone: string): string =>
  writeCsv(
    [
      'Number',
      'Participant',
      'Signed by',
      'As',
      'Signed at',
      'How',
      'Version',
      'Event',
      'Holds until',
      'State',
      'Answers',
      'SHA-256',
    ],
    rows.map((s) => [
      s.number,
      s.participant,
      s.typedName,
      s.relation,
      wallOf(s.at, zone),
      s.way,
      s.version,
      s.event?.title ?? '',
      s.holdsUntil ?? '',
      s.state,
      s.answers
        .filter((a) => !a.health)
        .map((a) => `${a.prompt} ${String(a.value)}`)
        .join('; '),
      s.sha256,
    ]),
  );
