import { chakra } from '@chakra-ui/react';
import { placed } from '#web/kit/placed.ts';
import { phrase, term, termAlone } from '#web/words/phrase.ts';
/** Shapes by kind, the same everywhere; each is said in words too. */

/** Small squares for seats: filled confirmed, half held, outlined waitlisted, pale free. */
export function Seats({
  confirmed,
  held,
  waitlisted,
  free,
}: {
  confirmed: number;
  held: number;
  waitlisted: number;
  free: number;
}) {
  const squares = (n: number, kind: string) =>
    Array.from({ length: Math.min(n, 400) }, (_, at) => <i key={`${kind}${at}`} className={kind} />);
  return (
    <chakra.div
      display="flex"
      gap="18px"
      role="img"
      aria-label={phrase('parts.confirmedHeldFreeWaitlisted', { confirmed, held, free, waitlisted })}
    >
      <chakra.div className="seats" flex={1}>
        {squares(confirmed, 'confirmed')}
        {squares(held, 'held')}
        {squares(free, 'free')}
      </chakra.div>
      {waitlisted > 0 && (
        <chakra.div className="seats" width="64px" alignContent="flex-start">
          {squares(waitlisted, 'waitlisted')}
        </chakra.div>
      )}
    </chakra.div>
  );
}

/** A short underline stroke for a signature; dotted while it is missing. */
export function Signature({ standing }: { standing: 'not asked' | 'self' | 'guardian' | 'signed' }) {
  if (standing === 'not asked') return <span className="soft">—</span>;
  const words =
    standing === 'signed'
      ? phrase('parts.signed')
      : standing === 'guardian'
        ? phrase('parts.guardianMissing')
        : phrase('parts.missing');
  return (
    <chakra.span title={words} whiteSpace="nowrap">
      <span className={`stroke ${standing === 'signed' ? '' : 'missing'}`} aria-hidden="true" />{' '}
      <span className={standing === 'signed' ? 'sr' : 'late'}>{words}</span>
    </chakra.span>
  );
}

/** A bar to length for money: how much of what is due has come. */
export function MoneyBar({ received, due, words }: { received: number; due: number; words: string }) {
  if (due === 0 && received === 0) return <span className="soft">{phrase('parts.free')}</span>;
  const share = due <= 0 ? 1 : Math.max(0, Math.min(1, received / due));
  return (
    <span title={words}>
      <span className="moneybar" aria-hidden="true">
        <span style={placed({ right: `${100 - share * 100}%` })} />
      </span>
      <chakra.span srOnly>{words}</chakra.span>
    </span>
  );
}

/** A ring for attendance: open while expected, closed on arrival. */
export function Ring({ state }: { state: 'expected' | 'arrived' | 'left' | 'missed' | null }) {
  if (!state) return null;
  return (
    <span title={term(state)}>
      <span className={`ring ${state}`} aria-hidden="true" />{' '}
      <span className={state === 'missed' ? 'late' : 'soft'}>{term(state)}</span>
    </span>
  );
}

/** The state of an event as a word. */
export function StateWord({ state }: { state: string }) {
  const tone =
    state === 'open'
      ? 'live'
      : state === 'called off'
        ? 'stop'
        : state === 'in clearance' || state === 'cleared'
          ? 'need'
          : '';
  return <span className={`word ${tone}`}>{termAlone(state)}</span>;
}
