import { chakra } from '@chakra-ui/react';
import { Plus, X } from 'lucide-react';
import { mostStays } from '#core/doors/correcting.ts';
import { Button } from '#web/kit/Button.tsx';
import { TextField } from '#web/kit/Field.tsx';
import { phrase } from '#web/words/phrase.ts';

/** A time somebody was there, as it is typed: by the clock on the wall. */
export interface TypedStay {
  fromLocal: string;
  untilLocal: string;
}

/** What is sent of it. */
export const staysSent = (stays: readonly TypedStay[]) =>
  stays.map(({ fromLocal, untilLocal }) => ({ fromLocal, untilLocal: untilLocal || null }));

/** When somebody was there: in and out, as often as they were; none says that they never came. */
export function StaysFields({
  stays,
  set,
  begins,
  wrongAt,
}: {
  stays: readonly TypedStay[];
  set: (stays: TypedStay[]) => void;
  /** What a new one begins with. */
  begins: TypedStay;
  /** What is wrong with a field, by its path. */
  wrongAt: (path: string) => string | undefined;
}) {
  const put = (n: number, part: Partial<TypedStay>) =>
    set(stays.map((s, at) => (at === n ? { ...s, ...part } : s)));
  return (
    <>
      {stays.length === 0 && <p className="soft">{phrase('event.neverCame')}</p>}
      {stays.map((stay, n) => (
        <chakra.div display="flex" flexWrap="wrap" gap="0 10px" alignItems="center" key={n}>
          <TextField
            label={phrase('event.cameAt')}
            type="datetime-local"
            value={stay.fromLocal}
            set={(fromLocal) => put(n, { fromLocal })}
            error={wrongAt(`stays.${n}.fromLocal`)}
          />
          <TextField
            label={phrase('event.leftAt')}
            type="datetime-local"
            value={stay.untilLocal}
            set={(untilLocal) => put(n, { untilLocal })}
            error={wrongAt(`stays.${n}.untilLocal`)}
          />
          <Button
            look="plain"
            aria-label={phrase('event.takeStayOut')}
            onClick={() => set(stays.filter((_, at) => at !== n))}
          >
            <X size={16} aria-hidden />
          </Button>
        </chakra.div>
      ))}
      {stays.length < mostStays && (
        <chakra.p marginBottom="14px">
          <Button onClick={() => set([...stays, begins])}>
            <Plus size={14} aria-hidden /> {phrase('event.addStay')}
          </Button>
        </chakra.p>
      )}
    </>
  );
}
