import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { Tick } from '../kit/Choosing.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';
import { ChangeAccount, type Member } from './ChangeAccount.tsx';
import { Invite } from './Invite.tsx';

const roleLook: SystemStyleObject = {
  display: 'flex',
  alignItems: 'baseline',
  gap: '8px',
  justifyContent: 'flex-end',
  textAlign: 'right',
};

type Team = Answer<'GET /api/staff'>;

/** The staff's accounts and invitations. Everybody has an account of their own. */
export default function Team() {
  const team = useAsk('GET /api/staff');
  const units = useAsk('GET /api/choices').data?.units ?? [];
  const [changing, setChanging] = useState<Member | null>(null);
  return (
    <div className="page narrow">
      <div className="spread">
        <h1>{phrase('common.teamAndRoles')}</h1>
        <Link to="/team/trail">{phrase('team.whoDidWhat')}</Link>
      </div>
      <Loaded of={team}>
        {(t) => (
          <>
            <ul className="lines">
              {t.staff.map((s) => (
                <MemberLine
                  key={s.id}
                  member={s}
                  unit={units.find((u) => u.id === s.unitId)?.name ?? null}
                  change={() => setChanging(s)}
                />
              ))}
              {t.invitations.map((i) => (
                <InvitationLine key={i.id} invitation={i} />
              ))}
            </ul>
            <Required required={t.secondStepRequired} />
          </>
        )}
      </Loaded>
      {changing && <ChangeAccount member={changing} units={units} close={() => setChanging(null)} />}
      <Invite units={units} />
    </div>
  );
}

function MemberLine({
  member: s,
  unit,
  change,
}: {
  member: Member;
  unit: string | null;
  change: () => void;
}) {
  const { dayAndYear } = useSaying();
  const me = useMe().data?.staff.id;
  return (
    <li className="spread">
      <span>
        <span className={`name ${s.resting ? 'past' : ''}`}>{s.name}</span>{' '}
        <small className="soft">{s.email}</small>
        <br />
        <small className="soft">
          {s.resting
            ? phrase('team.atRestCannotSign')
            : [
                s.seenAt
                  ? phrase('team.lastHere', { seenAt: dayAndYear(s.seenAt) })
                  : phrase('team.notSignedIn'),
                s.secondStep && phrase('team.secondStepOn'),
              ]
                .filter(Boolean)
                .join(' · ')}
        </small>
      </span>
      <chakra.span className="soft" css={roleLook}>
        {[s.roles.map(term).join(', ') + (s.approves.length > 0 ? ` (${s.approves.join(', ')})` : ''), unit]
          .filter(Boolean)
          .join(', ')}{' '}
        {s.id !== me && (
          <Button aria-label={phrase('team.change', { name: s.name })} onClick={change}>
            {phrase('common.change')}
          </Button>
        )}
      </chakra.span>
    </li>
  );
}

function InvitationLine({ invitation: i }: { invitation: Team['invitations'][number] }) {
  const { day } = useSaying();
  const takeBack = useAction('DELETE /api/staff/invitations/:id', () => say(phrase('team.takenBackTheLink')));
  const renew = useAction('POST /api/staff/invitations/:id/renew', () => say(phrase('team.aNewLinkWas')));
  return (
    <li className="spread">
      <span>
        <span className="name">{i.name}</span> <small className="soft">{i.email}</small>
        <br />
        <small className="need">
          {phrase('team.invitedAsUntil', {
            roles: i.roles.map(term).join(', '),
            expiresAt: day(i.expiresAt),
          })}
        </small>
        <Problems of={takeBack.problem ?? renew.problem} />
      </span>
      <span className="acts">
        <Button disabled={renew.isPending} onClick={() => renew.mutate({ params: { id: i.id } })}>
          {phrase('team.sendAnew')}
        </Button>
        <Button disabled={takeBack.isPending} onClick={() => takeBack.mutate({ params: { id: i.id } })}>
          {phrase('team.takeBack')}
        </Button>
      </span>
    </li>
  );
}

function Required({ required }: { required: boolean }) {
  const set = useAction('PUT /api/staff/second-step');
  return (
    <>
      <Problems of={set.problem} />
      <Tick checked={required} disabled={set.isPending} set={(on) => set.mutate({ body: { required: on } })}>
        <span>
          {phrase('team.coordinatorsAndTreasurersNeed')}{' '}
          <span className="soft">{phrase('team.whoeverHasNoneSets')}</span>
        </span>
      </Tick>
    </>
  );
}
