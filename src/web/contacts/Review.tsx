import { chakra } from '@chakra-ui/react';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import type { MergeField, Pair, PairSide } from '#contract/pairs.ts';
import { attributes, textKeys } from '#core/contacts/attributes.ts';
import { weightOf } from '#core/contacts/keeping.ts';
import { fullName } from '#core/contacts/names.ts';
import { sayPhone } from '#core/contacts/reach.ts';
import { Button } from '#web/kit/Button.tsx';
import { Asking } from '../kit/Asking.tsx';
import { Empty } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { Progress } from '../kit/Progress.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { sayCount, useSaying } from '../parts/saying.ts';
import { ReviewLines } from './ReviewLines.tsx';

type Side = 'a' | 'b';
type Decision = 'same' | 'different' | 'household';

/** Contacts that may be one person, side by side, decided from the keyboard. */
export default function Review() {
  const [busy, setBusy] = useState(false);
  const pairs = useAsk('GET /api/pairs', { query: { limit: 100 }, everyMs: busy ? 700 : undefined });
  const running = pairs.data?.looking.running ?? false;
  useEffect(() => setBusy(running), [running]);
  const look = useAction('POST /api/pairs/look', () => setBusy(true));
  return (
    <div className="page">
      <p>
        <Link to="/contacts">Contacts</Link>
      </p>
      <Loaded of={pairs}>
        {(answer) => (
          <>
            <div className="spread">
              <div>
                <h1>Who is who</h1>
                <p className="soft num">
                  {answer.open === 0
                    ? 'No pair waits for a decision'
                    : `${sayCount(answer.open)} ${answer.open === 1 ? 'pair waits' : 'pairs wait'}, likeliest first`}
                  {answer.decided > 0 && ` · ${answer.decided} decided`}
                </p>
              </div>
              <Button disabled={answer.looking.running || look.isPending} onClick={() => look.mutate({})}>
                Compare all contacts again
              </Button>
            </div>
            {answer.looking.running && (
              <Progress words="Comparing all contacts" done={answer.looking.done} all={answer.looking.all} />
            )}
            <ReviewLines answer={answer} />
            {answer.pairs.length > 0 ? (
              <Queue pairs={answer.pairs} />
            ) : (
              !answer.looking.running && (
                <Empty>
                  Contacts that may be one person are put up here by imports, registrations and walk-ins.
                  “Compare all contacts again” looks through everybody.
                </Empty>
              )
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
  const unmerge = useAction('POST /api/merges/:id/undo', () => say('Two contacts again.'));
  const reopen = useAction('POST /api/pairs/:id/reopen', () => say('The pair is open again.'));
  const said = useRef<Decision>('same');
  const decide = useAction('POST /api/pairs/:id/decide', ({ mergeId }) => {
    setConfirming(false);
    const words = {
      same: `${fullName(pair[keep])} is one contact now.`,
      household: 'Two people of one household.',
      different: 'Two people. They are not asked about again.',
    };
    say(words[said.current], {
      label: 'Undo',
      run: () =>
        mergeId ? unmerge.mutate({ params: { id: mergeId } }) : reopen.mutate({ params: { id: pair.id } }),
    });
  });
  const rows: FieldRow[] = [
    { field: 'name', heading: 'Name', said: ['given', 'family'], of: fullName },
    { field: null, heading: 'Email', said: ['email'], of: (s) => s.emails.join(', ') },
    {
      field: null,
      heading: 'Telephone',
      said: ['phone'],
      of: (s) => s.phones.map((p) => sayPhone(p, country)).join(', '),
    },
    {
      field: 'birthDate',
      heading: 'Born',
      said: ['birth'],
      of: (s) => (s.birthDate ? dayAndYear(`${s.birthDate}T12:00:00Z`) : ''),
    },
    {
      field: 'address',
      heading: 'Address',
      said: ['address'],
      of: (s) => [s.street, s.postalCode].filter(Boolean).join(', '),
    },
    ...textKeys.map(
      (key): FieldRow => ({
        field: key,
        heading: attributes[key].text.short,
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
      s.seats &&
        `${s.seats} ${s.seats === 1 ? 'seat' : 'seats'}, came ${s.attended} ${s.attended === 1 ? 'time' : 'times'}`,
      s.shifts && `${s.shifts} ${s.shifts === 1 ? 'shift' : 'shifts'}`,
      s.gifts && `${s.gifts} ${s.gifts === 1 ? 'gift' : 'gifts'}`,
    ]
      .filter(Boolean)
      .join(' · ') || 'no seats, shifts or gifts';
  return (
    <section aria-label="The pair" className="the-pair">
      <chakra.div className="spread" alignItems="baseline">
        <p>
          <chakra.b className="name" fontSize="18px">
            {Math.min(99, Math.round(pair.probability * 100))} in 100 that they are one person
          </chakra.b>
          {pair.held && <span className="need"> · needs a person to decide: {pair.held}</span>}
        </p>
        <chakra.p className="soft num" whiteSpace="nowrap">
          {place} of {of}{' '}
          <Button look="plain" title="Previous (k)" onClick={() => step(-1)}>
            Previous
          </Button>
          <Button look="plain" title="Skip (j)" onClick={() => step(1)}>
            Skip
          </Button>
        </chakra.p>
      </chakra.div>
      <Problems of={decide.problem} />
      <table className="sides">
        <thead>
          <tr>
            <chakra.th width="96px" />
            {(['a', 'b'] as const).map((side) => (
              <th key={side}>
                <label title={`This contact stays (${side === 'a' ? '←' : '→'})`}>
                  <input type="radio" name="keep" checked={keep === side} onChange={() => setKeep(side)} />
                  {keep === side ? 'stays' : 'is merged into the other'}
                </label>
              </th>
            ))}
            <th>What it says</th>
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
                    {row.heading === 'Name' ? (
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
                      value || <span className="soft">not known</span>
                    )}
                    {row.heading === 'Name' && differs && (
                      <Button
                        look="link"
                        marginLeft="8px"
                        fontSize="13px"
                        onClick={() => setChosen((c) => ({ ...c, name: side }))}
                      >
                        {taken ? '' : 'take this name'}
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
            <th scope="row">History</th>
            {(['a', 'b'] as const).map((side) => (
              <td key={side} className="soft">
                {hangs(pair[side])}
                <br />
                {pair[side].source}, {dayAndYear(pair[side].createdAt)}
              </td>
            ))}
            <td className="soft">found by {pair.foundBy}</td>
          </tr>
        </tbody>
      </table>
      <chakra.div className="acts" marginTop="14px">
        <Button
          look="main"
          disabled={decide.isPending}
          title="One person: merge (s)"
          onClick={() => setConfirming(true)}
        >
          One person <kbd>s</kbd>
        </Button>
        <Button disabled={decide.isPending} title="Two people (d)" onClick={() => run('different')}>
          Two people <kbd>d</kbd>
        </Button>
        <Button
          disabled={decide.isPending}
          title="Two people of one household (h)"
          onClick={() => run('household')}
        >
          One household <kbd>h</kbd>
        </Button>
        <chakra.span className="soft" fontSize="13px">
          <kbd>←</kbd> <kbd>→</kbd> which contact stays · <kbd>1</kbd>–<kbd>{shown.length}</kbd> whose value ·{' '}
          <kbd>j</kbd> <kbd>k</kbd> skip and back
        </chakra.span>
      </chakra.div>
      <Asking
        open={confirming}
        close={() => setConfirming(false)}
        title={`Make ${fullName(pair[keep])} one contact?`}
        actions={
          <Button look="main" disabled={decide.isPending} onClick={() => run('same')}>
            Merge
          </Button>
        }
      >
        <p>
          Everything of {fullName(pair[other])} comes over: {hangs(pair[other])}. Old links lead to the
          contact that stays. It can be taken apart again, from here or from the contact’s page.
        </p>
      </Asking>
    </section>
  );
}
