import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { SeriesChange, SeriesChanged } from '#contract/series.ts';
import { sayConsequences } from '#core/events/consequences.ts';
import type { ApiProblem } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
import { LongField } from '../kit/Field.tsx';
import { InlineChoice } from '../kit/Inline.tsx';
import { Problems } from '../kit/notices.tsx';
import { sayDay } from './SeriesForm.tsx';

type Fate = SeriesChanged['fates'][number];
type Decision = SeriesChange['decisions'][number]['become'];

/** What becomes of dates that a changed rule no longer has: decided one by one where people are on them. */
export function Reshaping({
  told,
  busy,
  problem,
  close,
  decide,
}: {
  told: SeriesChanged;
  busy: boolean;
  problem: ApiProblem | null;
  close: () => void;
  decide: (decisions: SeriesChange['decisions'], words: string) => void;
}) {
  const [chosen, setChosen] = useState<Readonly<Record<string, Decision>>>({});
  const [words, setWords] = useState('');
  const missing = told.fates.some((f) => f.open && !chosen[f.id]);
  const callsOff = Object.values(chosen).includes('call off');
  return (
    <Asking
      open
      wide
      title={phrase('series.whatBecomes')}
      close={close}
      dirty={Object.keys(chosen).length > 0}
      actions={
        <Button
          look="main"
          disabled={missing || busy || (callsOff && words.trim().length < 3)}
          onClick={() =>
            decide(
              Object.entries(chosen).map(([id, become]) => ({ id, become })),
              words,
            )
          }
        >
          {phrase('series.changeIt')}
        </Button>
      }
    >
      <p>{phrase('series.whatBecomesText', { n: told.fates.length })}</p>
      <Problems of={problem} />
      <chakra.ul listStyleType="none" margin="10px -4px" padding="0 4px" maxHeight="50vh" overflowY="auto">
        {told.fates.map((f) => (
          <chakra.li
            key={f.id}
            display="grid"
            gridTemplateColumns={{ base: '1fr', md: '170px 80px 1fr' }}
            gap="2px 14px"
            alignItems="baseline"
            padding="6px 0"
            borderBottom="1px solid"
            borderColor="line"
          >
            <span className="num">{f.startsLocal ? sayDay(f.startsLocal) : ''}</span>
            <chakra.span color={f.people ? 'ink' : 'soft'} fontWeight={f.people ? 500 : 400}>
              {f.ofOthers
                ? ''
                : f.people
                  ? phrase('series.nPeople', { n: f.people })
                  : phrase('series.nobody')}
            </chakra.span>
            {f.ofOthers ? (
              <span className="soft">{phrase('series.keptByOthers')}</span>
            ) : f.people ? (
              <InlineChoice
                label={phrase('series.becomes', { date: f.startsLocal ? sayDay(f.startsLocal) : '' })}
                value={chosen[f.id] ?? ''}
                set={(become) => setChosen({ ...chosen, [f.id]: become as Decision })}
                empty={phrase('series.choose')}
                choices={[
                  ...(f.to ? [{ value: 'move', label: sayFate({ ...f, become: 'move' }) }] : []),
                  { value: 'keep', label: phrase('series.keep') },
                  { value: 'call off', label: phrase('series.callOff') },
                ]}
              />
            ) : (
              <span className="soft">{sayFate(f)}</span>
            )}
          </chakra.li>
        ))}
      </chakra.ul>
      {callsOff && (
        <LongField label={phrase('series.words')} required rows={2} value={words} set={setWords} />
      )}
      {sayConsequences(told.followed, false).map((line) => (
        <chakra.p key={line} color="soft" fontSize="13.5px">
          {line}
        </chakra.p>
      ))}
    </Asking>
  );
}

function sayFate({ become, to }: Fate): string {
  switch (become) {
    case 'move':
      return phrase('series.move', { date: to ? sayDay(to) : '' });
    case 'keep':
      return phrase('series.keep');
    case 'call off':
      return phrase('series.callOff');
    case 'go':
      return phrase('series.go');
  }
}
