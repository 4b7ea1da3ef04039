import { Note } from '#web/kit/Note.tsx';
import { phrase } from '#web/words/phrase.ts';

/** How many of them are named. */
const mostNamed = 5;

/** For whom something cannot be done, by why. */
export function LeftAsTheyAre({ left }: { left: readonly { name: string; why: string }[] }) {
  if (!left.length) return null;
  const reasons = new Map(
    [...new Set(left.map((l) => l.why))].map((why) => [why, left.filter((l) => l.why === why)]),
  );
  return (
    <Note tone="need">
      {[...reasons].map(([why, of]) => (
        <p key={why}>
          <b className="num">{of.length}</b>{' '}
          {phrase(of.length > mostNamed ? 'seats.stayAndMore' : 'seats.stay', {
            why,
            names: of
              .slice(0, mostNamed)
              .map((l) => l.name)
              .join(', '),
          })}
        </p>
      ))}
    </Note>
  );
}
