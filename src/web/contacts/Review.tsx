import { chakra, RadioGroup, type SystemStyleObject } from '@chakra-ui/react';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import type { MergeField, Pair, PairSide } from '#contract/pairs.ts';
import { textKeys } from '#core/contacts/attributes.ts';
import { weightOf } from '#core/contacts/keeping.ts';
import { fullName } from '#core/contacts/names.ts';
import { sayPhone } from '#core/contacts/reach.ts';
import { sayText } from '#core/words/attributes.ts';
import { Button } from '#web/kit/Button.tsx';
import { Phrase } from '#web/words/Phrase.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
import { Empty } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { Progress } from '../kit/Progress.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { ReviewLines } from './ReviewLines.tsx';

const sidesLook: SystemStyleObject = {
  width: '100%',
  borderCollapse: 'collapse',
  marginTop: '8px',
  background: 'var(--sheet)',
  border: '1px solid var(--line)',
  '& th, & td': {
    textAlign: 'left',
    verticalAlign: 'top',
    padding: '7px 12px',
    borderBottom: '1px solid var(--line)',
    fontWeight: 400,
  },
  '& td': {
    width: '30%',
    overflowWrap: 'anywhere',
  },
  '& thead th': {
    color: 'var(--soft)',
    fontSize: '13px',
  },
  '& thead label': {
    display: 'inline-flex',
    gap: '6px',
    alignItems: 'center',
  },
  '& tbody th': {
    color: 'var(--soft)',
    whiteSpace: 'nowrap',
  },
  // On a phone the two stand side by side, what a line is above them and what it says beneath.
  '@media (max-width: 720px)': {
    '&, & tbody': { display: 'block' },
    '& tr': { display: 'grid', gridTemplateColumns: '1fr 1fr', borderBottom: '1px solid var(--line)' },
    '& th, & td': { border: 0, padding: '4px 12px', width: 'auto' },
    '& thead th:first-of-type, & thead th:last-of-type': { display: 'none' },
    '& tbody th, & td:last-of-type': { gridColumn: '1 / -1' },
    '& td:last-of-type:empty': { display: 'none' },
  },
  '& .struck': {
    textDecoration: 'line-through',
    textDecorationColor: 'var(--rule)',
  },
};
const thePairLook: SystemStyleObject = {
  borderTop: '1px solid var(--rule)',
  paddingTop: '12px',
};

type Side = 'a' | 'b';
type Decision = 'same' | 'different' | 'household';

/** Contacts that may be one person, side by side, decided from the keyboard. */
export default function Review() {
  const pairs = useAsk('GET /api/pairs', {
    query: { limit: 100 },
    everyMs: (of) => (of?.looking.running ? 700 : undefined),
  });
  const look = useAction('POST /api/pairs/look');
  return (
    <div className="page">
      <p>
        <Link to="/contacts">{phrase('common.contacts')}</Link>
      </p>
      <Loaded of={pairs}>
        {(answer) => (
          <>
            <div className="spread">
              <div>
                <h1>{phrase('contacts.whoIsWho')}</h1>
                <p className="soft num">
                  {[
                    answer.open === 0
                      ? phrase('contacts.noPairWaitsFor')
                      : phrase('contacts.pairWaitsLikeliestFirst', { open: answer.open }),
                    answer.decided > 0 && phrase('contacts.nDecided', { decided: answer.decided }),
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </p>
              </div>
              <Button disabled={answer.looking.running || look.isPending} onClick={() => look.mutate({})}>
                {phrase('contacts.compareAllContactsAgain')}
              </Button>
            </div>
            {answer.looking.running && (
              <Progress
                words={phrase('contacts.comparingAllContacts')}
                done={answer.looking.done}
                all={answer.looking.all}
              />
            )}
            <ReviewLines answer={answer} />
            {answer.pairs.length > 0 ? (
              <Queue pairs={answer.pairs} />
            ) : (
              !answer.looking.running && <Empty>{phrase('contacts.contactsThatMayBe')}</Empty>
            )}
          </>
        )}
      </Loaded>
    </div>
  );
}

function Queue({ pairs }: { pairs: readonly Pair[] }) {
  const [at, setAt] = useState(0);
  const pair = pairs[Math.min(at, pairs.length - 1)]!;
  return (
    <OnePair
      key={pair.id}
      pair={pair}
      place={Math.min(at, pairs.length - 1) + 1}
      of={pairs.length}
      step={(by) => setAt((n) => Math.max(0, Math.min(pairs.length - 1, n + by)))}
    />
  );
}

interface FieldRow {
  field: MergeField | null;
  heading: string;
  said: readonly string[];
  of: (s: PairSide) => string;
}

function OnePair({
  pair,
  place,
  of,
  step,
}: {
  pair: Pair;
  place: number;
  of: number;
  step: (by: number) => void;
}) {
  const { dayAndYear } = useSaying();
  const country = useMe().data?.organization.country ?? 'CA';
  const [keep, setKeep] = useState<Side>(weightOf(pair.b) > weightOf(pair.a) ? 'b' : 'a');
  const [chosen, setChosen] = useState<Partial<Record<MergeField, Side>>>({});
  const [confirming, setConfirming] = useState(false);
  const unmerge = useAction('POST /api/merges/:id/undo', () => say(phrase('contacts.twoContactsAgain')));
  const reopen = useAction('POST /api/pairs/:id/reopen', () => say(phrase('contacts.thePairIsOpen')));
  const said = useRef<Decision>('same');
  const decide = useAction('POST /api/pairs/:id/decide', ({ mergeId }) => {
    setConfirming(false);
    const words = {
      same: phrase('contacts.isOneContactNow', { name: fullName(pair[keep]) }),
      household: phrase('contacts.twoPeopleOfOne'),
      different: phrase('contacts.twoPeopleTheyAre'),
    };
    say(words[said.current], {
      label: phrase('common.undo'),
      run: () =>
        mergeId ? unmerge.mutate({ params: { id: mergeId } }) : reopen.mutate({ params: { id: pair.id } }),
    });
  });
  const rows: FieldRow[] = [
    { field: 'name', heading: phrase('common.name'), said: ['given', 'family'], of: fullName },
    { field: null, heading: phrase('common.email'), said: ['email'], of: (s) => s.emails.join(', ') },
    {
      field: null,
      heading: phrase('common.telephone'),
      said: ['phone'],
      of: (s) => s.phones.map((p) => sayPhone(p, country)).join(', '),
    },
    {
      field: 'birthDate',
      heading: phrase('contacts.born'),
      said: ['birth'],
      of: (s) => (s.birthDate ? dayAndYear(`${s.birthDate}T12:00:00Z`) : ''),
    },
    {
      field: 'address',
      heading: phrase('common.address'),
      said: ['address'],
      of: (s) => [s.street, s.postalCode].filter(Boolean).join(', '),
    },
    ...textKeys.map(
      (key): FieldRow => ({
        field: key,
        heading: sayText(key, 'short'),
        said: [],
        of: (s) => s[key] ?? '',
      }),
    ),
  ];
  const shown = rows.filter((r) => r.of(pair.a) || r.of(pair.b));
  const other: Side = keep === 'a' ? 'b' : 'a';
  /** Which side a field is taken from: as chosen, else the one that stays, else whichever has it. */
  const takenFrom = (row: FieldRow): Side =>
    (row.field && chosen[row.field]) ?? (row.of(pair[keep]) || !row.of(pair[other]) ? keep : other);
  const run = (decision: Decision) => {
    const fields = Object.fromEntries(
      Object.entries(chosen).map(([field, side]) => [field, side === keep ? 'kept' : 'merged']),
    );
    said.current = decision;
    decide.mutate({
      params: { id: pair.id },
      body: { decision, ...(decision === 'same' ? { keep: pair[keep].id, chosen: fields } : {}) },
    });
  };
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const typing = (e.target as HTMLElement).closest('input, textarea, select, [role="dialog"]');
      if (typing || e.metaKey || e.ctrlKey || e.altKey || decide.isPending) return;
      const row = shown[Number(e.key) - 1];
      if (e.key === 's') run('same');
      else if (e.key === 'd') run('different');
      else if (e.key === 'h') run('household');
      else if (e.key === 'j' || e.key === 'ArrowDown') step(1);
      else if (e.key === 'k' || e.key === 'ArrowUp') step(-1);
      else if (e.key === 'ArrowLeft') setKeep('a');
      else if (e.key === 'ArrowRight') setKeep('b');
      else if (row?.field) setChosen((c) => ({ ...c, [row.field!]: takenFrom(row) === 'a' ? 'b' : 'a' }));
      else return;
      e.preventDefault();
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  });
  const finding = (said: readonly string[]) => pair.findings.filter((f) => said.includes(f.field));
  const hangs = (s: PairSide) =>
    [
      s.seats && phrase('contacts.seatCameTime', { seats: s.seats, attended: s.attended }),
      s.shifts && phrase('contacts.shiftsOf', { shifts: s.shifts }),
      s.gifts && phrase('contacts.giftsOf', { gifts: s.gifts }),
    ]
      .filter(Boolean)
      .join(' · ') || phrase('contacts.noSeatsShiftsOr');
  return (
    <chakra.section aria-label={phrase('contacts.thePair')} css={thePairLook}>
      <chakra.div className="spread" alignItems="baseline">
        <p>
          <chakra.b className="name" fontSize="18px">
            {phrase('contacts.in100ThatThey', { value: Math.min(99, Math.round(pair.probability * 100)) })}
          </chakra.b>
          {pair.held && (
            <span className="need"> · {phrase('contacts.needsAPersonTo', { held: pair.held })}</span>
          )}
        </p>
        <chakra.p className="soft num" whiteSpace="nowrap">
          {phrase('contacts.placeOf', { place, of })}{' '}
          <Button look="plain" title={phrase('contacts.previousK')} onClick={() => step(-1)}>
            {phrase('contacts.previous')}
          </Button>
          <Button look="plain" title={phrase('contacts.skipJ')} onClick={() => step(1)}>
            {phrase('contacts.skip')}
          </Button>
        </chakra.p>
      </chakra.div>
      <Problems of={decide.problem} />
      <RadioGroup.Root
        value={keep}
        onValueChange={(d) => setKeep(d.value as 'a' | 'b')}
        aria-label={phrase('contacts.whoStays')}
      >
        <chakra.table css={sidesLook}>
          <thead>
            <tr>
              <chakra.th width="96px" />
              {(['a', 'b'] as const).map((side) => (
                <th key={side}>
                  <RadioGroup.Item
                    value={side}
                    title={phrase('contacts.thisContactStays', { key: side === 'a' ? '←' : '→' })}
                  >
                    <RadioGroup.ItemHiddenInput />
                    <RadioGroup.ItemControl />
                    <RadioGroup.ItemText>
                      {keep === side ? phrase('contacts.stays') : phrase('contacts.isMergedIntoThe')}
                    </RadioGroup.ItemText>
                  </RadioGroup.Item>
                </th>
              ))}
              <th>{phrase('contacts.whatItSays')}</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((row, n) => (
              <tr key={row.heading}>
                <th scope="row">
                  {row.heading} {row.field && row.of(pair.a) !== row.of(pair.b) && <kbd>{n + 1}</kbd>}
                </th>
                {(['a', 'b'] as const).map((side) => {
                  const value = row.of(pair[side]);
                  const differs = row.of(pair.a) !== row.of(pair.b);
                  const taken = !row.field || !differs || takenFrom(row) === side;
                  return (
                    <td key={side} className={taken || !value ? '' : 'soft struck'}>
                      {row.field === 'name' ? (
                        <Person id={pair[side].id} name={value} />
                      ) : row.field && differs && value ? (
                        <Button
                          look="link"
                          color="inherit"
                          className="plain"
                          onClick={() => setChosen((c) => ({ ...c, [row.field!]: side }))}
                        >
                          {value}
                        </Button>
                      ) : (
                        value || <span className="soft">{phrase('contacts.notKnown')}</span>
                      )}
                      {row.field === 'name' && differs && (
                        <Button
                          look="link"
                          display="inline-block"
                          marginLeft="8px"
                          fontSize="13px"
                          onClick={() => setChosen((c) => ({ ...c, name: side }))}
                        >
                          {taken ? '' : phrase('contacts.takeThisName')}
                        </Button>
                      )}
                    </td>
                  );
                })}
                <td>
                  {finding(row.said).map((f) => (
                    <div
                      key={f.words}
                      className={f.bits > 0 ? 'speaks for' : f.bits < 0 ? 'speaks against' : 'soft'}
                    >
                      {f.words}
                    </div>
                  ))}
                </td>
              </tr>
            ))}
            <tr>
              <th scope="row">{phrase('contacts.history')}</th>
              {(['a', 'b'] as const).map((side) => (
                <td key={side} className="soft">
                  {hangs(pair[side])}
                  <br />
                  {pair[side].source}, {dayAndYear(pair[side].createdAt)}
                </td>
              ))}
              <td className="soft">{phrase('contacts.foundBy', { foundBy: pair.foundBy })}</td>
            </tr>
          </tbody>
        </chakra.table>
      </RadioGroup.Root>
      <chakra.div className="acts" marginTop="14px">
        <Button
          look="main"
          disabled={decide.isPending}
          title={phrase('contacts.onePersonMergeS')}
          onClick={() => setConfirming(true)}
        >
          {phrase('contacts.onePerson')} <kbd>s</kbd>
        </Button>
        <Button
          disabled={decide.isPending}
          title={phrase('contacts.twoPeopleD')}
          onClick={() => run('different')}
        >
          {phrase('contacts.twoPeople')} <kbd>d</kbd>
        </Button>
        <Button
          disabled={decide.isPending}
          title={phrase('contacts.twoPeopleOfOneHouseholdH')}
          onClick={() => run('household')}
        >
          {phrase('contacts.oneHousehold')} <kbd>h</kbd>
        </Button>
        <chakra.span className="soft" fontSize="13px">
          <kbd>←</kbd> <kbd>→</kbd>{' '}
          <Phrase
            of="contacts.whichContactStaysWhose"
            with={{
              kbd: <kbd>1</kbd>,
              shown: <kbd>{shown.length}</kbd>,
              j: <kbd>j</kbd>,
              k: <kbd>k</kbd>,
            }}
          />
        </chakra.span>
      </chakra.div>
      <Asking
        open={confirming}
        close={() => setConfirming(false)}
        title={phrase('contacts.makeOneContact', { name: fullName(pair[keep]) })}
        actions={
          <Button look="main" disabled={decide.isPending} onClick={() => run('same')}>
            {phrase('contacts.merge')}
          </Button>
        }
      >
        <p>
          {phrase('contacts.everythingOfComesOver', {
            name: fullName(pair[other]),
            pair: hangs(pair[other]),
          })}
        </p>
      </Asking>
    </chakra.section>
  );
}
