import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { dutiesContract, type TeamMember } from '#contract/duties.ts';
import { type DutyPart, dutyParts } from '#core/access/duties.ts';
import { type Stage, stages } from '#core/events/states.ts';
import { Button } from '#web/kit/Button.tsx';
import { Phrase } from '#web/words/Phrase.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { SeveralOf } from '../../kit/Choosing.tsx';
import { FormDialog } from '../../kit/form/FormDialog.tsx';
import { Choose, OneOf, Text } from '../../kit/form/fields.tsx';
import { prepare } from '../../kit/form/request.ts';
import { useForm } from '../../kit/form/useForm.ts';
import { Note } from '../../kit/Note.tsx';
import { Loaded, Problems } from '../../kit/notices.tsx';
import { say } from '../../kit/toast.tsx';
import { useAction, useAsk } from '../../parts/ask.ts';
import type { SectionProps } from './section.ts';

const partWords: Record<DutyPart, string> = {
  lead: phrase('event.partLead'),
  'co-organizer': phrase('event.partCoOrganizer'),
  helper: phrase('event.partHelper'),
};
const sayPart = (m: Pick<TeamMember, 'part' | 'stage'>): string =>
  m.stage ? phrase('event.helpsAt', { stage: term(m.stage) }) : partWords[m.part];

/** Who works on this event, each with a sign-in of their own, and the units it belongs to beside its own. */
export function Team({ draft: { plan, change }, page }: SectionProps) {
  const team = useAsk('GET /api/events/:id/team', { params: { id: page.id } });
  const units = useAsk('GET /api/choices').data?.units.filter((u) => u.id !== plan.unitId) ?? [];
  const [adding, setAdding] = useState(false);
  const [link, setLink] = useState<{ name: string; link: string } | null>(null);
  const remove = useAction('DELETE /api/events/:id/team/:member');
  return (
    <>
      {link && (
        <Note as="p" tone="know" role="status">
          <Phrase
            of="event.invitedToHelp"
            with={{ name: link.name, link: <chakra.code wordBreak="break-all">{link.link}</chakra.code> }}
          />
        </Note>
      )}
      <Problems of={remove.problem} />
      <Loaded of={team}>
        {({ members, mayChange }) => (
          <>
            {members.length === 0 && <p className="soft">{phrase('event.nobodyYetOnTeam')}</p>}
            <ul className="lines">
              {members.map((m) => (
                <li key={m.id} className="spread">
                  <span>
                    <span className="name">{m.name}</span>{' '}
                    <span className="soft">
                      {[sayPart(m), m.invited && phrase('event.invitedOnly')].filter(Boolean).join(', ')}
                    </span>
                  </span>
                  {mayChange && (
                    <Button
                      look="link"
                      color="soft"
                      disabled={remove.isPending}
                      aria-label={phrase('event.takeOffTeam', { name: m.name })}
                      onClick={() =>
                        remove.mutate(
                          { params: { id: page.id, member: m.id } },
                          { onSuccess: () => say(phrase('event.tookOffTeam', { name: m.name })) },
                        )
                      }
                    >
                      {phrase('common.remove')}
                    </Button>
                  )}
                </li>
              ))}
            </ul>
            {mayChange && <Button onClick={() => setAdding(true)}>{phrase('event.addToTeam')}</Button>}
            {adding && (
              <Adding
                eventId={page.id}
                close={() => setAdding(false)}
                invited={(name, to) => setLink({ name, link: to })}
              />
            )}
          </>
        )}
      </Loaded>
      {units.length > 0 && (
        <chakra.div marginTop="14px">
          <SeveralOf
            label={phrase('event.partnerUnits')}
            help={phrase('event.partnerUnitsHelp')}
            value={plan.partnerIds}
            set={(partnerIds) => change({ partnerIds })}
            choices={units.map((u) => ({ value: u.id, label: u.name }))}
          />
        </chakra.div>
      )}
    </>
  );
}

/** Puts somebody on the team. What they will be able to do is said before. */
function Adding({
  eventId,
  close,
  invited,
}: {
  eventId: string;
  close: () => void;
  invited: (name: string, link: string) => void;
}) {
  const form = useForm({
    values: { name: '', email: '', part: 'helper' as string, stage: 'doors' as string },
    request: ({ part, stage, ...v }) =>
      prepare(dutiesContract, 'POST /api/events/:id/team', {
        params: { id: eventId },
        body: {
          ...v,
          part: part as DutyPart,
          stage: part === 'helper' ? (stage as Stage) : null,
        },
      }),
    after: ({ link }, { name }) => {
      if (link) invited(name, link);
      else say(phrase('event.onTheTeamNow', { name }));
      close();
    },
  });
  const { part, stage } = form.values;
  return (
    <FormDialog
      form={form}
      title={phrase('event.addToTeam')}
      submit={phrase('event.addToTeamDo')}
      close={close}
    >
      <Text form={form} name="name" label={phrase('common.name')} required />
      <Text form={form} name="email" label={phrase('common.email')} type="email" required />
      <OneOf
        form={form}
        name="part"
        label={phrase('event.asWhat')}
        choices={dutyParts.map((p) => ({ value: p, label: partWords[p] }))}
      />
      {part === 'helper' && (
        <Choose
          form={form}
          name="stage"
          label={phrase('event.atWhichStage')}
          choices={stages.map((s) => ({ value: s, label: term(s) }))}
        />
      )}
      <p className="soft">
        {part === 'helper'
          ? phrase('event.helperWill', { stage: term(stage) })
          : phrase(part === 'lead' ? 'event.leadWill' : 'event.coOrganizerWill')}
      </p>
    </FormDialog>
  );
}
