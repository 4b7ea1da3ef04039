import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { SegmentSummary } from '#contract/records.ts';
import { InlineChoice } from '#web/kit/Inline.tsx';
import { Phrase } from '#web/words/Phrase.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Loaded } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';
import { sayCount } from '../parts/saying.ts';

/** How two segments overlap. */
export function OverlapOf({ segments }: { segments: readonly SegmentSummary[] }) {
  const [id, setId] = useState(segments[0]!.id);
  const [other, setOther] = useState(segments[1]!.id);
  const overlap = useAsk('GET /api/segments/:id/compare/:other', { params: { id, other } });
  const pick = (value: string, set: (v: string) => void, label: string) => (
    <InlineChoice
      label={label}
      value={value}
      set={set}
      choices={segments.map((s) => ({ value: s.id, label: s.name }))}
    />
  );
  const nameOf = (x: string) => segments.find((s) => s.id === x)?.name ?? '';
  return (
    <chakra.section marginTop="26px">
      <h2>{phrase('records.twoSideBySide')}</h2>
      <div className="tools">
        <Phrase
          of="records.and"
          with={{
            id: pick(id, setId, phrase('records.firstSegment')),
            other: pick(other, setOther, phrase('records.secondSegment')),
          }}
        />
      </div>
      <Loaded of={overlap}>
        {(o) => (
          <chakra.div className="table still" maxWidth="460px">
            <table>
              <tbody>
                {(
                  [
                    [phrase('records.inBoth'), o.both],
                    [phrase('records.onlyIn', { id: nameOf(id) }), o.onlyThis],
                    [phrase('records.onlyIn', { id: nameOf(other) }), o.onlyOther],
                  ] as const
                ).map(([label, n]) => (
                  <tr key={label}>
                    <td>{label}</td>
                    <td className="n">{sayCount(n)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </chakra.div>
        )}
      </Loaded>
    </chakra.section>
  );
}
