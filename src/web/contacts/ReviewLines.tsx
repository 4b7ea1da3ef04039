import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Asking } from '../kit/Asking.tsx';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction } from '../parts/ask.ts';

const hundredths = (share: number): number => Math.round(share * 100);

/** The two lines of matching, which can be moved; what that does is seen at once. */
export function ReviewLines({ answer }: { answer: Answer<'GET /api/pairs'> }) {
  const [lines, setLines] = useState<{ same: number; look: number } | null>(null);
  const [merging, setMerging] = useState(false);
  const save = useAction('PUT /api/pairs/thresholds', () => {
    setLines(null);
    say('The lines were moved. They hold for every import from now on.');
  });
  const unmerge = useAction('POST /api/merges/:id/undo');
  const merge = useAction('POST /api/pairs/merge-sure', ({ merged, mergeIds }) => {
    setMerging(false);
    say(`${merged} ${merged === 1 ? 'pair' : 'pairs'} merged.`, {
      label: 'Undo',
      run: async () => {
        for (const id of [...mergeIds].reverse()) await unmerge.mutateAsync({ params: { id } });
        say('Taken apart again.');
      },
    });
  });
  const { same, look } = lines ?? answer.thresholds;
  const waiting = answer.histogram.slice(hundredths(look)).reduce((n, x) => n + x, 0);
  const sure = answer.sure.filter((p) => p >= same).length;
  const most = Math.max(1, ...answer.histogram);
  const range = (what: 'same' | 'look', label: string, from: number, to: number, consequence: string) => (
    <label className="line">
      <span>
        {label} <b className="num">{hundredths(what === 'same' ? same : look)}</b> in 100
      </span>
      <input
        type="range"
        min={from}
        max={to}
        value={hundredths(what === 'same' ? same : look)}
        onChange={(e) => setLines({ same, look, [what]: Number(e.target.value) / 100 })}
      />
      <small className="soft num">{consequence}</small>
    </label>
  );
  return (
    <chakra.details className="lines-of-matching" margin="8px 0 14px">
      <chakra.summary cursor="pointer">
        From {hundredths(answer.thresholds.same)} in 100 on an import links by itself, from{' '}
        {hundredths(answer.thresholds.look)} on it asks here
        {answer.sure.filter((p) => p >= answer.thresholds.same).length > 0 && (
          <>
            {' · '}
            <Button look="link" onClick={() => setMerging(true)}>
              merge the {answer.sure.filter((p) => p >= answer.thresholds.same).length} that are surely one
            </Button>
          </>
        )}
      </chakra.summary>
      <div className="two-lines">
        {range('look', 'Ask from', 1, 90, `${waiting} pairs would wait here`)}
        {range('same', 'Link from', 60, 99, `${sure} of the open pairs would be linked without asking`)}
        <svg
          viewBox="0 0 100 30"
          preserveAspectRatio="none"
          role="img"
          aria-label="Open pairs by how likely they are one person"
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
      </div>
      <small className="soft">
        At registrations and walk-ins nobody looks over what was linked, so there the line is never below 97.
      </small>
      <Problems of={save.problem ?? merge.problem} />
      {lines && (
        <chakra.div className="acts" marginTop="8px">
          <Button look="main" disabled={save.isPending} onClick={() => save.mutate({ body: { same, look } })}>
            Move the lines
          </Button>
          <Button look="plain" onClick={() => setLines(null)}>
            Leave them
          </Button>
        </chakra.div>
      )}
      <Asking
        open={merging}
        close={() => setMerging(false)}
        title="Merge those that are surely one?"
        actions={
          <Button
            look="main"
            disabled={merge.isPending}
            onClick={() => merge.mutate({ body: { from: Math.max(0.9, answer.thresholds.same) } })}
          >
            {merge.isPending ? 'Merging …' : 'Merge them'}
          </Button>
        }
      >
        <p>
          {answer.sure.filter((p) => p >= answer.thresholds.same).length} pairs lie above the line and nothing
          speaks against them. Of each the contact that more hangs on stays. Each can be taken apart again.
        </p>
      </Asking>
    </chakra.details>
  );
}
