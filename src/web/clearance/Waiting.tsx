import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { sayShortDate } from '#core/time/say.ts';
import { call } from '#web/api.ts';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
import { RowTick } from '../kit/Choosing.tsx';
import { Empty } from '../kit/Note.tsx';
import { Loaded } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

/** Every step that waits for whoever is signed in; those that need no more than a yes are cleared together. */
export default function Waiting() {
  const waiting = useAsk('GET /api/clearance/waiting');
  const { today } = useSaying();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [asking, setAsking] = useState(false);
  const [busy, setBusy] = useState(false);
  const [failed, setFailed] = useState<string[]>([]);
  const there = (waiting.data ?? []).filter((s) => chosen.has(s.stepId));
  const named = (s: { step: string; title: string }) => `${s.title}, ${s.step}`;
  const clear = async () => {
    setBusy(true);
    const wrong: string[] = [];
    // Each by itself: one that somebody decided meanwhile does not keep the others.
    for (const s of there)
      await call('POST /api/clearance-steps/:id/decision', {
        params: { id: s.stepId },
        body: { decision: 'clear' },
      }).catch(() => wrong.push(named(s)));
    setBusy(false);
    setAsking(false);
    setChosen(new Set());
    setFailed(wrong);
    await waiting.refetch();
    say(phrase('clearance.clearedOf', { n: there.length - wrong.length }));
  };
  return (
    <div className="page">
      <div className="spread">
        <h1>{phrase('clearance.waiting')}</h1>
        {there.length > 0 && (
          <Button look="main" onClick={() => setAsking(true)}>
            {phrase('clearance.clearChosen', { n: there.length })}
          </Button>
        )}
      </div>
      <chakra.p className="soft" maxWidth="70ch">
        {phrase('clearance.waitingText')}
      </chakra.p>
      {failed.length > 0 && (
        <p className="late" role="alert">
          {phrase('clearance.notCleared', { steps: failed.join('; ') })}
        </p>
      )}
      <Loaded of={waiting}>
        {(steps) =>
          steps.length === 0 ? (
            <Empty>{phrase('clearance.waitingNone')}</Empty>
          ) : (
            <chakra.ul className="lines" marginTop="10px">
              {steps.map((s) => (
                <chakra.li key={s.stepId} display="grid" gridTemplateColumns="24px 1fr auto" gap="2px 10px">
                  <RowTick
                    checked={chosen.has(s.stepId)}
                    aria-label={phrase('clearance.choose', { step: s.step, title: s.title })}
                    onChange={(event) => {
                      const next = new Set(chosen);
                      if (event.currentTarget.checked) next.add(s.stepId);
                      else next.delete(s.stepId);
                      setChosen(next);
                    }}
                    marginTop="5px"
                  />
                  <div>
                    <span className="name">{s.title}</span>{' '}
                    <span className="soft">
                      {[
                        s.startsLocal && `${sayShortDate(s.startsLocal, true)} ${s.startsLocal.slice(0, 4)}`,
                        s.unit,
                      ]
                        .filter(Boolean)
                        .join(' · ')}
                    </span>
                    <chakra.p fontSize="14px">
                      <b>{s.step}</b>{' '}
                      <span className="soft">
                        {phrase('clearance.because', { because: s.because.join(', ') })}
                        {s.standsFor && ` · ${phrase('clearance.inPlaceOf', { who: s.standsFor })}`}
                      </span>
                      {s.changed ? (
                        <chakra.span color="ochre">
                          {' '}
                          · {phrase('clearance.changedN', { n: s.changed })}
                        </chakra.span>
                      ) : null}
                    </chakra.p>
                    <TextLink to={`/events/${s.eventId}/clearance`}>{phrase('clearance.read')}</TextLink>
                  </div>
                  <chakra.span className={s.dueOn < today ? 'late num' : 'num soft'} whiteSpace="nowrap">
                    {phrase('clearance.by', { date: sayShortDate(s.dueOn, true) })}
                  </chakra.span>
                </chakra.li>
              ))}
            </chakra.ul>
          )
        }
      </Loaded>
      <Asking
        open={asking}
        close={() => setAsking(false)}
        title={phrase('clearance.clearAsk', { n: there.length })}
        actions={
          <Button look="main" disabled={busy} onClick={() => void clear()}>
            {phrase('clearance.clearChosen', { n: there.length })}
          </Button>
        }
      >
        <p>{phrase('clearance.clearText', { steps: there.map(named).join('; ') })}</p>
      </Asking>
    </div>
  );
}
