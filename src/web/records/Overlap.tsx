import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { SegmentSummary } from '#contract/records.ts';
import { Loaded } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';
import { sayCount } from '../parts/saying.ts';

/** How two segments overlap. */
export function OverlapOf({ segments }: { segments: readonly SegmentSummary[] }) {
  const [id, setId] = useState(segments[0]!.id);
  const [other, setOther] = useState(segments[1]!.id);
  const overlap = useAsk('GET /api/segments/:id/compare/:other', { params: { id, other } });
  const pick = (value: string, set: (v: string) => void, label: string) => (
    <chakra.select aria-label={label} value={value} width="auto" onChange={(e) => set(e.target.value)}>
      {segments.map((s) => (
        <option key={s.id} value={s.id}>
          {s.name}
        </option>
      ))}
    </chakra.select>
  );
  const nameOf = (x: string) => segments.find((s) => s.id === x)?.name ?? '';
  return (
    <chakra.section marginTop="26px">
      <h2>Two side by side</h2>
      <div className="tools">
        {pick(id, setId, 'First segment')} and {pick(other, setOther, 'Second segment')}
      </div>
      <Loaded of={overlap}>
        {(o) => (
          <chakra.div className="table still" maxWidth="460px">
            <table>
              <tbody>
                {(
                  [
                    ['In both', o.both],
                    [`Only in “${nameOf(id)}”`, o.onlyThis],
                    [`Only in “${nameOf(other)}”`, o.onlyOther],
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
