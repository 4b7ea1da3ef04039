import { chakra } from '@chakra-ui/react';
import { changesContract, type WhatIf as Told } from '#contract/changes.ts';
import type { EventPage } from '#contract/events.ts';
import type { EventPlan } from '#contract/plan.ts';
import { graceMinutes } from '#core/changes/aspects.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { LongText } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { type Form, useForm } from '#web/kit/form/useForm.ts';
import { Note } from '#web/kit/Note.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { fieldTitles } from '../plan/fieldWords.ts';
import { useSayChange } from '../plan/sayingChanges.ts';
import { ByItself } from './ByItself.tsx';
import { tellsNow } from './changeWords.ts';
import { Letters } from './Letters.tsx';
import { changeOf, type Doing, fieldOfSettled, nothingSettled, type Settled, settleOf } from './settling.ts';
import { ToSettle } from './ToSettle.tsx';
import { useWhatIf } from './useWhatIf.ts';

/** What a change brings about, before it is made: everything that has to be settled, the letters, and what happens by itself. */
export function WhatIf({
  page,
  doing,
  close,
  done,
}: {
  page: EventPage;
  doing: Doing;
  close: () => void;
  /** It was made; of a change of the plan, the version it has now. */
  done: (version: number | null) => void;
}) {
  const callsOff = 'move' in doing;
  const { now, timeOfDay } = useSaying();
  const made = (letters: number) => {
    const at = plusMinutes(now, graceMinutes);
    say(letters ? phrase('changes.saved', { time: timeOfDay(at) }) : phrase('changes.savedQuietly'));
  };
  const form = useForm<Settled, { version?: number; changeId: string | null }>({
    values: nothingSettled(callsOff),
    request: (v) =>
      callsOff
        ? prepare(changesContract, 'POST /api/events/:id/state', {
            params: { id: page.id },
            body: { move: doing.move, words: v.words, settle: settleOf(v) },
          })
        : prepare(changesContract, 'PATCH /api/events/:id', {
            params: { id: page.id },
            body: { version: doing.version, change: changeOf(doing, v, page.plan), settle: settleOf(v) },
          }),
    fieldOf: (path, v) =>
      fieldOfSettled(path, v)
        .replace('change.registrationClosesLocal', 'closes')
        .replace('change.startsLocal', 'starts'),
    after: ({ version }) => {
      made(tellsNow(told?.letters));
      done(version ?? null);
    },
  });
  const { told, busy, problem } = useWhatIf(page, doing, form.values, form.sending);
  const tells = tellsNow(told?.letters);
  return (
    <FormDialog
      form={form}
      wide
      title={phrase(callsOff ? 'changes.titleCallOff' : 'changes.title')}
      close={close}
      look={callsOff ? 'stop' : 'main'}
      disabled={!told || busy || problem !== null}
      submit={
        callsOff
          ? tells
            ? phrase('changes.callOffAndTell', { count: tells })
            : phrase('changes.callOff')
          : tells
            ? phrase('changes.saveAndTell', { count: tells })
            : phrase('changes.save')
      }
    >
      {!callsOff && <WhatIsNew page={page} change={changeOf(doing, form.values, page.plan)} />}
      {callsOff && <p>{phrase('event.thePublicPageSays')}</p>}
      <Problems of={problem} />
      {callsOff && <LongText form={form} name="words" label={phrase('changes.why')} rows={2} required />}
      <chakra.div aria-busy={busy} opacity={busy && told ? 0.6 : 1} transition="opacity 120ms">
        {told ? (
          <Shown told={told} form={form} page={page} doing={doing} />
        ) : (
          !problem && <chakra.p color="soft">{phrase('changes.asking')}</chakra.p>
        )}
      </chakra.div>
    </FormDialog>
  );
}

function Shown({
  told,
  form,
  page,
  doing,
}: {
  told: Told;
  form: Form<Settled>;
  page: EventPage;
  doing: Doing;
}) {
  const tells = tellsNow(told.letters) > 0;
  return (
    <>
      <ToSettle told={told} form={form} page={page} doing={doing} />
      <Letters told={told} form={form} words={!('move' in doing)} />
      <ByItself told={told} zone={page.plan.zone} />
      {tells && (
        <Note as="p" tone="know" marginTop="14px">
          {phrase('changes.graceText')}
        </Note>
      )}
    </>
  );
}

/** What is new of the plan, each thing with what it was. */
function WhatIsNew({ page, change }: { page: EventPage; change: Partial<EventPlan> }) {
  const sayChange = useSayChange(page);
  return (
    <chakra.ul listStyleType="none" padding={0} margin="4px 0 12px">
      {(Object.keys(change) as (keyof EventPlan)[]).map((field) => (
        <li key={field}>
          {fieldTitles[field]}: {sayChange({ field, before: page.plan[field], after: change[field] })}
        </li>
      ))}
    </chakra.ul>
  );
}
