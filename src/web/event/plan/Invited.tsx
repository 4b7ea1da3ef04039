import { chakra } from '@chakra-ui/react';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useRef, useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { invitedContract } from '#contract/invited.ts';
import { type Reply, replies } from '#core/admission/invitation.ts';
import { call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { InlineChoice } from '#web/kit/Inline.tsx';
import { Empty } from '#web/kit/Note.tsx';
import { phrase } from '#web/words/phrase.ts';
import { ChoiceField, Group } from '../../kit/Field.tsx';
import { FormDialog } from '../../kit/form/FormDialog.tsx';
import { LongText } from '../../kit/form/fields.tsx';
import { prepare } from '../../kit/form/request.ts';
import { useForm } from '../../kit/form/useForm.ts';
import { Loaded, Problems } from '../../kit/notices.tsx';
import { say } from '../../kit/toast.tsx';
import { useAction, useAsk, useMe } from '../../parts/ask.ts';
import { PersonSearch } from '../../parts/PersonSearch.tsx';
import { WhoGets } from '../../parts/WhoGets.tsx';

const answers: Record<Reply, string> = {
  yes: phrase('offers.saidYes'),
  perhaps: phrase('offers.saidPerhaps'),
  no: phrase('offers.saidNo'),
};
/** As many as can be chosen to come along. */
const companions = Array.from({ length: 11 }, (_, n) => String(n));

/** Who is invited, how many each may bring along, and what they answered; those who have not are written to. */
export function Invited({ page }: { page: EventPage }) {
  const params = { id: page.id };
  const invited = useAsk('GET /api/events/:id/invited', { params });
  const add = useAction('POST /api/events/:id/invited');
  const change = useAction('PATCH /api/events/:id/invited/:contact');
  const remove = useAction('DELETE /api/events/:id/invited/:contact');
  const may = page.may.change.includes('plan');
  const [writing, setWriting] = useState(false);
  return (
    <Group label={phrase('event.invited')}>
      <Problems of={add.problem ?? change.problem ?? remove.problem} />
      <Loaded of={invited}>
        {(people) => (
          <>
            {people.length === 0 && <Empty>{phrase('event.nobodyInvited')}</Empty>}
            {people.length > 0 && (
              <p className="soft num">
                {[
                  ...replies.map((r) => [people.filter((p) => p.answer === r).length, answers[r]] as const),
                  [people.filter((p) => !p.answer).length, phrase('offers.saidNothing')] as const,
                ]
                  .filter(([n]) => n > 0)
                  .map(([n, words]) => `${n} ${words}`)
                  .join(' · ')}
              </p>
            )}
            <chakra.ul listStyleType="none" padding="0" margin="0 0 8px" maxHeight="420px" overflowY="auto">
              {people.map((p) => (
                <chakra.li
                  key={p.contactId}
                  display="flex"
                  flexWrap="wrap"
                  justifyContent="space-between"
                  alignItems="center"
                  gap="4px 12px"
                  padding="4px 0"
                  borderBottom="1px solid"
                  borderColor="line"
                >
                  <span>
                    {p.name}{' '}
                    <small className={p.answer === 'perhaps' ? 'need' : 'soft'}>
                      {p.answer
                        ? answers[p.answer]
                        : p.written
                          ? phrase('offers.writtenTimes', { count: p.written })
                          : phrase('offers.notWritten')}
                      {p.seats > 0 && `, ${phrase('event.nSeats', { n: p.seats })}`}
                      {p.words && ` · ${p.words}`}
                    </small>
                  </span>
                  <chakra.span display="flex" gap="10px" alignItems="center">
                    {may ? (
                      <InlineChoice
                        look="cell"
                        label={phrase('offers.companionsOf', { name: p.name })}
                        value={String(p.companions)}
                        set={(n) =>
                          change.mutate({
                            params: { ...params, contact: p.contactId },
                            body: { companions: Number(n) },
                          })
                        }
                        choices={[...new Set([...companions, String(p.companions)])].map((value) => ({
                          value,
                          label:
                            value === '0' ? phrase('offers.alone') : phrase('offers.andMore', { n: value }),
                        }))}
                      />
                    ) : (
                      p.companions > 0 && phrase('offers.andMore', { n: p.companions })
                    )}
                    {may && (
                      <Button
                        look="link"
                        color="soft"
                        fontSize="13.5px"
                        aria-label={phrase('event.removeNamed', { name: p.name })}
                        onClick={() => remove.mutate({ params: { ...params, contact: p.contactId } })}
                      >
                        {phrase('common.remove')}
                      </Button>
                    )}
                  </chakra.span>
                </chakra.li>
              ))}
            </chakra.ul>
            {may && people.some((p) => p.answer === null || p.answer === 'perhaps') && (
              <Button onClick={() => setWriting(true)} disabled={page.state !== 'open'}>
                {phrase('offers.writeInvitations')}
              </Button>
            )}
            {may && page.state !== 'open' && people.length > 0 && (
              <small className="soft"> {phrase('offers.writeWhenOpen')}</small>
            )}
          </>
        )}
      </Loaded>
      {may && (
        <chakra.div marginTop="12px">
          <PersonSearch
            // Once somebody is added, the next one is looked for.
            key={invited.data?.length}
            label={phrase('event.invite')}
            chosen=""
            pick={(person) => person && add.mutate({ params, body: { contactIds: [person.id] } })}
          />
          <InviteSegment page={page} />
        </chakra.div>
      )}
      {writing && <WriteInvitations page={page} close={() => setWriting(false)} />}
    </Group>
  );
}

/** Invites everybody in a segment who has no seat: for those who may read about everybody. */
function InviteSegment({ page }: { page: EventPage }) {
  const everybody = useMe().data?.staff.roles.includes('coordinator') ?? false;
  const segments = useAsk('GET /api/segments', { enabled: everybody }).data ?? [];
  const [segmentId, choose] = useState('');
  const params = { id: page.id };
  const back = useAction('POST /api/events/:id/invited', () => say(phrase('common.undone')));
  const { mutate, isPending, problem } = useAction('POST /api/events/:id/invited', ({ contactIds }) => {
    choose('');
    if (!contactIds.length) return say(phrase('offers.invitedNone'));
    say(phrase('offers.invitedMany', { count: contactIds.length }), {
      label: phrase('common.undo'),
      run: () => back.mutate({ params, body: { contactIds, remove: true } }),
    });
  });
  if (!everybody || !segments.length) return null;
  return (
    <>
      <Problems of={problem ?? back.problem} />
      <ChoiceField
        label={phrase('offers.inviteSegment')}
        value={segmentId}
        set={choose}
        choices={[
          { value: '', label: phrase('offers.noSegment') },
          ...segments.map((s) => ({
            value: s.id,
            label: s.count === null ? s.name : phrase('offers.segmentOf', { name: s.name, count: s.count }),
          })),
        ]}
      />
      {segmentId && (
        <Button disabled={isPending} onClick={() => mutate({ params, body: { segmentId } })}>
          {phrase('offers.inviteThem')}
        </Button>
      )}
    </>
  );
}

/** Writes to all who have said neither yes nor no: each gets a link of their own. */
function WriteInvitations({ page, close }: { page: EventPage; close: () => void }) {
  const count = useRef(0);
  const params = { id: page.id };
  const form = useForm({
    values: { words: '' },
    request: (v) =>
      prepare(invitedContract, 'POST /api/events/:id/invited/letters', {
        params,
        body: { ...v, expect: count.current },
      }),
    after: ({ planned }) => {
      say(phrase('seats.sent', { n: planned }));
      close();
    },
  });
  const words = useDeferredValue(form.values.words);
  const preview = useQuery({
    queryKey: ['invitations', page.id, words],
    queryFn: () => call('POST /api/events/:id/invited/letters/preview', { params, body: { words } }),
    placeholderData: keepPreviousData,
    retry: false,
  }).data;
  count.current = preview?.planned ?? 0;
  return (
    <FormDialog
      form={form}
      wide
      close={close}
      title={phrase('offers.writeInvitations')}
      submit={preview ? phrase('seats.sendLetters', { n: preview.planned }) : phrase('seats.send')}
      disabled={!preview?.planned}
    >
      <p className="soft">{phrase('offers.invitationHelp')}</p>
      <LongText form={form} name="words" label={phrase('offers.invitationWords')} rows={4} />
      {preview && <WhoGets {...preview} />}
    </FormDialog>
  );
}
