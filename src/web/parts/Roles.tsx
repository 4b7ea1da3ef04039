import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { type CrewRole, type CrewRules, rolesContract, type Skill } from '#contract/roles.ts';
import { markable } from '#core/crew/againstKinds.ts';
import { roundedTo, roundedWays } from '#core/crew/serving.ts';
import { plainAmount, readAmount } from '#core/money/amount.ts';
import { phrase } from '#web/words/phrase.ts';
import { Form } from '../kit/form/Form.tsx';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { Choose, Count, LongText, Money, SeveralOf, Text, Tick } from '../kit/form/fields.tsx';
import { type Prepared, prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk, useMe } from './ask.ts';
import { ChangeOrRemove, RegisterSection, RowActs } from './RegisterSection.tsx';
import { useSaying } from './saying.ts';

/** What volunteers do and what that asks of them, what they can be able to do, and the rules of rest. */
export function Roles() {
  const register = useAsk('GET /api/roles');
  const coordinator = useMe().data?.staff.roles.includes('coordinator') ?? false;
  const [role, setRole] = useState<CrewRole | 'new' | null>(null);
  const [skill, setSkill] = useState<Skill | 'new' | null>(null);
  const dropRole = useAction('DELETE /api/roles/:id');
  const dropSkill = useAction('DELETE /api/skills/:id');
  return (
    <>
      <Problems of={dropRole.problem ?? dropSkill.problem} />
      <Loaded of={register}>
        {({ roles: every, skills, rules }) => {
          const roles = every.filter((r) => !r.retired);
          const named = new Map(skills.map((k) => [k.id, k.name]));
          return (
            <>
              <RegisterSection
                title={phrase('crew.roles')}
                empty={phrase('crew.noRoles')}
                add={phrase('crew.addRole')}
                act={() => setRole('new')}
                rows={roles.map((r) => (
                  <li key={r.id} className="spread">
                    <span>
                      <span className="name">{r.name}</span>{' '}
                      <span className="soft">
                        {[
                          ...r.needs.map((id) => named.get(id)),
                          r.fromAge !== null && phrase('crew.fromAge', { age: r.fromAge }),
                          !r.anybody && phrase('crew.leadDecides'),
                          r.places.length > 0 && phrase('crew.servedAt', { places: r.places.join(', ') }),
                        ]
                          .filter(Boolean)
                          .join(', ')}
                      </span>
                    </span>
                    <RowActs>
                      {r.shifts > 0 && (
                        <span className="soft num">{phrase('crew.shiftsToCome', { n: r.shifts })}</span>
                      )}
                      <ChangeOrRemove
                        name={r.name}
                        change={() => setRole(r)}
                        removing={dropRole.isPending}
                        remove={() =>
                          dropRole.mutate(
                            { params: { id: r.id } },
                            { onSuccess: () => say(phrase('crew.roleGone', { name: r.name })) },
                          )
                        }
                      />
                    </RowActs>
                  </li>
                ))}
              />
              <RegisterSection
                title={phrase('crew.skills')}
                empty={phrase('crew.noSkills')}
                add={phrase('crew.addSkill')}
                act={() => setSkill('new')}
                rows={skills.map((k) => (
                  <li key={k.id} className="spread">
                    <span>
                      <span className="name">{k.name}</span>{' '}
                      {k.certificate && <span className="soft">{phrase('crew.isCertificate')}</span>}
                    </span>
                    <RowActs>
                      <span className="soft num">{phrase('crew.heldBy', { n: k.held })}</span>
                      {k.ending > 0 && (
                        <span className="need num">{phrase('crew.ending', { n: k.ending })}</span>
                      )}
                      <ChangeOrRemove
                        name={k.name}
                        change={() => setSkill(k)}
                        removing={dropSkill.isPending}
                        remove={() =>
                          dropSkill.mutate(
                            { params: { id: k.id } },
                            { onSuccess: () => say(phrase('crew.skillGone', { name: k.name })) },
                          )
                        }
                      />
                    </RowActs>
                  </li>
                ))}
              />
              {coordinator && <Rules key={JSON.stringify(rules)} rules={rules} />}
              {role && (
                <ChangeRole role={role === 'new' ? null : role} skills={skills} close={() => setRole(null)} />
              )}
              {skill && <ChangeSkill skill={skill === 'new' ? null : skill} close={() => setSkill(null)} />}
            </>
          );
        }}
      </Loaded>
    </>
  );
}

function ChangeRole({
  role,
  skills,
  close,
}: {
  role: CrewRole | null;
  skills: readonly Skill[];
  close: () => void;
}) {
  const form = useForm({
    values: {
      name: role?.name ?? '',
      brief: role?.brief ?? '',
      fromAge: role?.fromAge ? String(role.fromAge) : '',
      anybody: role?.anybody ?? true,
      needs: role?.needs ?? ([] as string[]),
      places: (role?.places ?? []).join(', '),
    },
    request: (v): Prepared<unknown> => {
      const body = {
        ...v,
        fromAge: v.fromAge.trim() ? Number(v.fromAge) : null,
        places: v.places
          .split(',')
          .map((place) => place.trim())
          .filter(Boolean),
      };
      return role
        ? prepare(rolesContract, 'PATCH /api/roles/:id', { params: { id: role.id }, body })
        : prepare(rolesContract, 'POST /api/roles', { body });
    },
    after: () => {
      say(phrase('common.saved'));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      close={close}
      title={role ? phrase('team.changeNamed', { name: role.name }) : phrase('crew.addRole')}
      submit={role ? phrase('common.save') : phrase('crew.addRole')}
    >
      <div className="pair">
        <Text form={form} name="name" label={phrase('common.name')} required />
        <Count form={form} name="fromAge" label={phrase('crew.ageFrom')} />
      </div>
      <LongText
        form={form}
        name="brief"
        label={phrase('crew.brief')}
        help={phrase('crew.briefHelp')}
        rows={2}
      />
      <Text
        form={form}
        name="places"
        label={phrase('crew.usualPlaces')}
        help={phrase('crew.usualPlacesHelp')}
      />
      {skills.length > 0 && (
        <SeveralOf
          form={form}
          name="needs"
          label={phrase('crew.needsSkills')}
          choices={skills.map((k) => ({ value: k.id, label: k.name }))}
        />
      )}
      <Tick form={form} name="anybody" label={phrase('crew.anybody')} />
      {role && role.shifts > 0 && <p className="soft">{phrase('team.renamedEverywhere')}</p>}
    </FormDialog>
  );
}

function ChangeSkill({ skill, close }: { skill: Skill | null; close: () => void }) {
  const form = useForm({
    values: { name: skill?.name ?? '', certificate: skill?.certificate ?? true },
    request: (body): Prepared<unknown> =>
      skill
        ? prepare(rolesContract, 'PATCH /api/skills/:id', { params: { id: skill.id }, body })
        : prepare(rolesContract, 'POST /api/skills', { body }),
    after: () => {
      say(phrase('common.saved'));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      close={close}
      title={skill ? phrase('team.changeNamed', { name: skill.name }) : phrase('crew.addSkill')}
      submit={skill ? phrase('common.save') : phrase('crew.addSkill')}
    >
      <Text form={form} name="name" label={phrase('common.name')} required />
      <Tick form={form} name="certificate" label={phrase('crew.certificate')} />
    </FormDialog>
  );
}

const neverWords: Readonly<Record<(typeof markable)[number], string>> = {
  overlap: phrase('crew.never-overlap'),
  'short rest': phrase('crew.never-short rest'),
  'own seat': phrase('crew.never-own seat'),
  'not available': phrase('crew.never-not available'),
  age: phrase('crew.never-age'),
  skill: phrase('crew.never-skill'),
  expired: phrase('crew.never-expired'),
};

const wayWords: Readonly<Record<CrewRules['rounded'], string>> = {
  nearest: phrase('crew.roundNearest'),
  up: phrase('crew.roundUp'),
  down: phrase('crew.roundDown'),
};

/** How much rest there is, what nobody is put on a shift in spite of, and how served hours are counted. */
function Rules({ rules }: { rules: CrewRules }) {
  const { currency, money } = useSaying();
  const form = useForm({
    values: {
      restHours: String(rules.restHours),
      placeMinutes: String(rules.placeMinutes),
      neverOverridden: rules.neverOverridden as string[],
      asksToStepIn: rules.asksToStepIn,
      lateMinutes: String(rules.lateMinutes),
      roundedTo: String(rules.roundedTo),
      rounded: rules.rounded as string,
      hourValue: rules.hourValue === null ? '' : plainAmount(rules.hourValue, currency),
    },
    request: (v) =>
      prepare(rolesContract, 'PUT /api/crew-rules', {
        body: {
          restHours: Number(v.restHours),
          placeMinutes: Number(v.placeMinutes),
          neverOverridden: markable.filter((kind) => v.neverOverridden.includes(kind)),
          asksToStepIn: v.asksToStepIn,
          lateMinutes: Number(v.lateMinutes),
          roundedTo: Number(v.roundedTo) as CrewRules['roundedTo'],
          rounded: v.rounded as CrewRules['rounded'],
          hourValue: v.hourValue.trim() ? (readAmount(v.hourValue, currency) ?? Number.NaN) : null,
        },
      }),
    after: () => say(phrase('common.saved')),
  });
  return (
    <chakra.section marginTop="26px" aria-label={phrase('crew.rules')}>
      <h2>{phrase('crew.rules')}</h2>
      <Form form={form} submit={phrase('common.save')}>
        <Count form={form} name="restHours" label={phrase('crew.restHours')} help={phrase('crew.restHelp')} />
        <Count
          form={form}
          name="placeMinutes"
          label={phrase('crew.placeMinutes')}
          help={phrase('crew.placeMinutesHelp')}
        />
        <SeveralOf
          form={form}
          name="neverOverridden"
          label={phrase('crew.never')}
          choices={markable.map((kind) => ({ value: kind, label: neverWords[kind] }))}
        />
        <Tick form={form} name="asksToStepIn" label={phrase('crew.asksToStepIn')} />
        <Count
          form={form}
          name="lateMinutes"
          label={phrase('crew.lateMinutes')}
          help={phrase('crew.lateHelp')}
        />
        <Choose
          form={form}
          name="roundedTo"
          label={phrase('crew.roundedTo')}
          choices={roundedTo.map((n) => ({ value: String(n), label: phrase('crew.minutes', { n }) }))}
        />
        <Choose
          form={form}
          name="rounded"
          label={phrase('crew.rounded')}
          choices={roundedWays.map((value) => ({ value, label: wayWords[value] }))}
        />
        <Money
          form={form}
          name="hourValue"
          currency={currency}
          sayAmount={money}
          label={phrase('crew.hourValue')}
          help={phrase('crew.hourValueHelp')}
        />
      </Form>
    </chakra.section>
  );
}
