import { useState } from 'react';
import { useNavigate } from 'react-router';
import { type EventPage, eventsContract } from '#contract/events.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Menu, type MenuEntry } from '../kit/Menu.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { PreviewPage } from './PreviewPage.tsx';

/** What can be done with an event as a whole, besides moving it on. */
export function EventMenu({ page, moves }: { page: EventPage; moves: readonly MenuEntry[] }) {
  const navigate = useNavigate();
  const [asking, setAsking] = useState<'template' | 'preview' | 'delete' | null>(null);
  const close = () => setAsking(null);
  const draft = page.state === 'draft';
  return (
    <>
      <Menu
        end
        trigger={
          <Button look="plain" aria-label={phrase('event.moreToDo')}>
            {phrase('event.more')}
          </Button>
        }
        entries={[
          {
            label: phrase(page.isTemplate ? 'event.beginFromIt' : 'event.planItAgain'),
            run: () => void navigate(`/season?again=${page.id}`),
          },
          ...(page.isTemplate
            ? []
            : [
                { label: phrase('event.preview'), run: () => setAsking('preview') },
                { label: phrase('event.keepAsTemplate'), run: () => setAsking('template') },
              ]),
          ...moves,
          ...(draft ? [{ label: phrase('event.deleteForGood'), run: () => setAsking('delete') }] : []),
        ]}
      />
      {asking === 'template' && <KeepTemplate page={page} close={close} />}
      {asking === 'preview' && <PreviewPage page={page} close={close} />}
      {asking === 'delete' && <Delete page={page} close={close} />}
    </>
  );
}

/** Keeps what comes along to a copy, to begin others from. */
function KeepTemplate({ page, close }: { page: EventPage; close: () => void }) {
  const navigate = useNavigate();
  const form = useForm({
    values: { publicTitle: page.plan.publicTitle },
    request: ({ publicTitle }) =>
      prepare(eventsContract, 'POST /api/events/:id/template', {
        params: { id: page.id },
        body: { publicTitle },
      }),
    after: ({ id }) => {
      close();
      navigate(`/events/${id}/plan`);
      say(phrase('event.keptAsTemplate'));
    },
  });
  return (
    <FormDialog
      form={form}
      title={phrase('event.keepAsTemplate')}
      submit={phrase('event.keepTemplate')}
      close={close}
    >
      <p>{phrase('event.whatATemplateIs')}</p>
      <Text form={form} name="publicTitle" label={phrase('common.publicTitle')} required autoFocus />
    </FormDialog>
  );
}

/** Says what would be lost before it is, or why nothing can be. */
function Delete({ page, close }: { page: EventPage; close: () => void }) {
  const navigate = useNavigate();
  const asked = useAsk('GET /api/events/:id/deletion', { params: { id: page.id } });
  const title = page.plan.publicTitle || page.plan.teamTitle || phrase('event.untitled');
  const remove = useAction('DELETE /api/events/:id', () => {
    navigate('/season?show=undated');
    say(phrase('event.deleted', { title }));
  });
  return (
    <Asking
      open
      close={close}
      title={phrase('event.deleteTitle', { title })}
      actions={
        asked.data?.hindered === null && (
          <Button
            look="stop"
            disabled={remove.isPending}
            onClick={() => remove.mutate({ params: { id: page.id } })}
          >
            {phrase('event.deleteForGood')}
          </Button>
        )
      }
    >
      <Problems of={remove.problem} />
      <Loaded of={asked}>
        {({ hindered, ...lost }) => <p>{hindered ?? phrase('event.deletingLoses', lost)}</p>}
      </Loaded>
    </Asking>
  );
}
