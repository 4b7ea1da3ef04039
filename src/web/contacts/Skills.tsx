import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { type HeldSkill, rolesContract } from '#contract/roles.ts';
import { sayDay } from '#core/contacts/membership.ts';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../kit/Button.tsx';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { Choose, DateField, Text, Tick } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

/** Roles that see what people can do. */
const seeing = ['coordinator', 'crew lead', 'unit lead'] as const;

/** What somebody can do, for whoever sees that: skills, and certificates with the day they run out and whether anybody has seen them. */
export function Skills({ contactId }: { contactId: string }) {
  const { today } = useSaying();
  const roles = useMe().data?.staff.roles ?? [];
  const held = useAsk('GET /api/contacts/:id/skills', {
    params: { id: contactId },
    enabled: seeing.some((role) => roles.includes(role)),
  });
  const [changing, setChanging] = useState<HeldSkill | 'new' | null>(null);
  const restore = useAction('PUT /api/contacts/:id/skills/:skill', () => say(phrase('common.undone')));
  const remove = useAction('DELETE /api/contacts/:id/skills/:skill');
  // Whose unit it is not reads nothing here.
  if (!held.data) return null;
  return (
    <chakra.section margin="16px 0" fontSize="14px" aria-label={phrase('crew.canDo')}>
      <h2>{phrase('crew.canDo')}</h2>
      <Problems of={remove.problem} />
      <Loaded of={held}>
        {(skills) => (
          <>
            {skills.length === 0 && <p className="soft">{phrase('crew.nothingKnown')}</p>}
            <ul className="plainlist">
              {skills.map((k) => {
                const over = k.until !== null && k.until < today;
                return (
                  <li key={k.skillId}>
                    <span>
                      {[k.name, k.number].filter(Boolean).join(', ')}
                      {k.until && (
                        <span className={over ? 'late' : 'soft'}>
                          {', '}
                          {phrase(over ? 'crew.ranOut' : 'crew.untilDay', { day: sayDay(k.until) })}
                        </span>
                      )}
                      {k.certificate && (!k.seen || k.seenBy) && ', '}
                      {k.certificate && !k.seen && <span className="need">{phrase('crew.notSeen')}</span>}
                      {k.certificate && k.seenBy && (
                        <span className="soft">{phrase('crew.seenBy', { name: k.seenBy })}</span>
                      )}
                    </span>
                    <span className="acts">
                      <Button
                        look="link"
                        color="verdigris"
                        aria-label={phrase('crew.changeHeld', { name: k.name })}
                        onClick={() => setChanging(k)}
                      >
                        {phrase('common.change')}
                      </Button>
                      <Button
                        look="link"
                        color="soft"
                        aria-label={phrase('crew.removeHeld', { name: k.name })}
                        disabled={remove.isPending}
                        onClick={() =>
                          remove.mutate(
                            { params: { id: contactId, skill: k.skillId } },
                            {
                              onSuccess: () =>
                                say(phrase('crew.skillAway', { name: k.name }), {
                                  label: phrase('common.undo'),
                                  run: () =>
                                    restore.mutate({
                                      params: { id: contactId, skill: k.skillId },
                                      body: { number: k.number, until: k.until, seen: k.seen },
                                    }),
                                }),
                            },
                          )
                        }
                      >
                        {phrase('common.remove')}
                      </Button>
                    </span>
                  </li>
                );
              })}
            </ul>
            <Button look="plain" onClick={() => setChanging('new')}>
              {phrase('crew.addHeld')}
            </Button>
            {changing && (
              <Change
                contactId={contactId}
                held={changing === 'new' ? null : changing}
                has={skills.map((k) => k.skillId)}
                close={() => setChanging(null)}
              />
            )}
          </>
        )}
      </Loaded>
    </chakra.section>
  );
}

function Change({
  contactId,
  held,
  has,
  close,
}: {
  contactId: string;
  held: HeldSkill | null;
  has: readonly string[];
  close: () => void;
}) {
  const skills = (useAsk('GET /api/roles').data?.skills ?? []).filter((k) => !has.includes(k.id));
  const form = useForm({
    values: {
      skill: held?.skillId ?? '',
      number: held?.number ?? '',
      until: held?.until ?? '',
      seen: held?.seen ?? true,
    },
    request: (v) =>
      prepare(rolesContract, 'PUT /api/contacts/:id/skills/:skill', {
        params: { id: contactId, skill: v.skill },
        body: { number: v.number, until: v.until || null, seen: v.seen },
      }),
    after: () => {
      say(phrase('common.saved'));
      close();
    },
  });
  const certificate = held?.certificate ?? skills.find((k) => k.id === form.values.skill)?.certificate;
  return (
    <FormDialog
      form={form}
      close={close}
      title={held ? phrase('crew.changeHeld', { name: held.name }) : phrase('crew.addHeld')}
      submit={phrase('common.save')}
      disabled={!form.values.skill}
    >
      {!held && (
        <Choose
          form={form}
          name="skill"
          label={phrase('crew.whichSkill')}
          choices={skills.map((k) => ({ value: k.id, label: k.name }))}
          empty={phrase('crew.chooseSkill')}
        />
      )}
      {certificate && (
        <div className="pair">
          <Text form={form} name="number" label={phrase('crew.number')} />
          <DateField form={form} name="until" label={phrase('crew.heldUntil')} />
        </div>
      )}
      {certificate && <Tick form={form} name="seen" label={phrase('crew.seen')} />}
    </FormDialog>
  );
}
