import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import { useState } from 'react';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Slide } from '#web/kit/Slide.tsx';
import { Phrase } from '#web/words/Phrase.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction } from '../parts/ask.ts';

const twoLinesLook: SystemStyleObject = {
  display: 'grid',
  gridTemplateColumns: '1fr 1fr 1.4fr',
  gap: '6px 28px',
  alignItems: 'end',
  margin: '10px 0 4px',
  '& .line': {
    display: 'grid',
    gap: '2px',
    fontSize: '14px',
  },
  '& input': {
    accentColor: 'var(--verdigris)',
  },
  '& svg': {
    width: '100%',
    height: '54px',
    borderBottom: '1px solid var(--rule)',
  },
};

const hundredths = (share: number): number => Math.round(share * 100);

/** The two lines of matching, which can be moved; what that does is seen at once. */
export function ReviewLines({ answer }: { answer: Answer<'GET /api/pairs'> }) {
  const [lines, setLines] = useState<{ same: number; look: number } | null>(null);
  const [merging, setMerging] = useState(false);
  const save = useAction('PUT /api/pairs/thresholds', () => {
    setLines(null);
    say(phrase('contacts.theLinesWereMoved'));
  });
  const unmerge = useAction('POST /api/merges/:id/undo');
  const merge = useAction('POST /api/pairs/merge-sure', ({ merged, mergeIds }) => {
    setMerging(false);
    say(phrase('contacts.pairMerged', { merged }), {
      label: phrase('common.undo'),
      run: async () => {
        for (const id of [...mergeIds].reverse()) await unmerge.mutateAsync({ params: { id } });
        say(phrase('contacts.takenApartAgain'));
      },
    });
  });
  const { same, look } = lines ?? answer.thresholds;
  const waiting = answer.histogram.slice(hundredths(look)).reduce((n, x) => n + x, 0);
  const sure = answer.sure.filter((p) => p >= same).length;
  const most = Math.max(1, ...answer.histogram);
  const range = (what: 'same' | 'look', label: string, from: number, to: number, consequence: string) => (
    <Slide
      label={label}
      said={
        <Phrase
          of="contacts.in100"
          with={{ label, what: <b className="num">{hundredths(what === 'same' ? same : look)}</b> }}
        />
      }
      min={from}
      max={to}
      value={hundredths(what === 'same' ? same : look)}
      set={(to) => setLines({ same, look, [what]: to / 100 })}
      consequence={consequence}
    />
  );
  return (
    <chakra.details className="lines-of-matching" margin="8px 0 14px">
      <chakra.summary cursor="pointer">
        {phrase('contacts.fromIn100On', {
          same: hundredths(answer.thresholds.same),
          look: hundredths(answer.thresholds.look),
        })}
        {answer.sure.filter((p) => p >= answer.thresholds.same).length > 0 && (
          <>
            {' · '}
            <Button look="link" onClick={() => setMerging(true)}>
              {phrase('contacts.mergeTheThatAre', {
                sure: answer.sure.filter((p) => p >= answer.thresholds.same).length,
              })}
            </Button>
          </>
        )}
      </chakra.summary>
      <chakra.div css={twoLinesLook}>
        {range('look', phrase('contacts.askFrom'), 1, 90, phrase('contacts.pairsWouldWaitHere', { waiting }))}
        {range('same', phrase('contacts.linkFrom'), 60, 99, phrase('contacts.ofTheOpenPairs', { sure }))}
        <svg
          viewBox="0 0 100 30"
          preserveAspectRatio="none"
          role="img"
          aria-label={phrase('contacts.openPairsByHow')}
        >
          {answer.histogram.map((n, at) => (
            <rect
              key={at}
              x={at + 0.1}
              width={0.8}
              y={30 - (28 * n) / most}
              height={(28 * n) / most}
              fill={
                at < hundredths(look)
                  ? 'var(--line)'
                  : at < hundredths(same)
                    ? 'var(--ochre)'
                    : 'var(--verdigris)'
              }
            />
          ))}
        </svg>
      </chakra.div>
      <small className="soft">{phrase('contacts.atRegistrationsAndWalk')}</small>
      <Problems of={save.problem ?? merge.problem} />
      {lines && (
        <chakra.div className="acts" marginTop="8px">
          <Button look="main" disabled={save.isPending} onClick={() => save.mutate({ body: { same, look } })}>
            {phrase('contacts.moveTheLines')}
          </Button>
          <Button look="plain" onClick={() => setLines(null)}>
            {phrase('common.cancel')}
          </Button>
        </chakra.div>
      )}
      <Asking
        open={merging}
        close={() => setMerging(false)}
        title={phrase('contacts.mergeThoseThatAre')}
        actions={
          <Button
            look="main"
            disabled={merge.isPending}
            onClick={() => merge.mutate({ body: { from: Math.max(0.9, answer.thresholds.same) } })}
          >
            {merge.isPending ? phrase('contacts.merging') : phrase('contacts.mergeThem')}
          </Button>
        }
      >
        <p>
          {phrase('contacts.pairsLieAboveThe', {
            sure: answer.sure.filter((p) => p >= answer.thresholds.same).length,
          })}
        </p>
      </Asking>
    </chakra.details>
  );
}
