import { chakra } from '@chakra-ui/react';
import { Plus, X } from 'lucide-react';
import { instantIn } from '#core/events/schedule.ts';
import { countingWindow } from '#core/outcomes/counting.ts';
import { readTexts } from '#core/words/texts.ts';
import { Button } from '#web/kit/Button.tsx';
import { SeveralOf } from '#web/kit/Choosing.tsx';
import { TextField } from '#web/kit/Field.tsx';
import { Menu } from '#web/kit/Menu.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { typedAs } from './entries.tsx';
import type { SectionProps } from './section.ts';

/** What is counted at the event, what is hoped for, when it can be counted, and what it counts towards. */
export function Outcomes({ draft: { plan, change, wrong } }: SectionProps) {
  const measures = useAsk('GET /api/measures');
  const choices = useAsk('GET /api/choices');
  const { at } = useSaying();
  const { outcomes } = plan;
  const put = (part: Partial<typeof outcomes>) => change({ outcomes: { ...outcomes, ...part } });
  const window = countingWindow(
    { startsAt: instantIn(plan, 'startsLocal'), endsAt: instantIn(plan, 'endsLocal'), zone: plan.zone },
    outcomes,
  );
  return (
    <Loaded of={measures}>
      {(all) => {
        const chosen = outcomes.measures.flatMap(({ measureId, planned }, index) => {
          const measure = all.find((m) => m.id === measureId);
          return measure ? [{ measure, planned, index }] : [];
        });
        const left = all.filter((m) => !m.closed && !outcomes.measures.some((c) => c.measureId === m.id));
        if (!all.length) return <p className="soft">{phrase('outcomes.noMeasuresYet')}</p>;
        return (
          <>
            <p className="soft">{phrase('outcomes.planHelp')}</p>
            {wrong['outcomes.measures'] && <p className="late">{wrong['outcomes.measures']}</p>}
            {chosen.map(({ measure, planned, index }) => {
              const name = readTexts(measure.name, 'en');
              return (
                <chakra.div
                  key={measure.id}
                  display="grid"
                  gridTemplateColumns="minmax(0,1fr) 130px auto"
                  gap="10px"
                  alignItems="start"
                >
                  <chakra.span paddingTop="26px">
                    <span className="name">{name}</span>{' '}
                    {wrong[`outcomes.measures.${index}.measureId`] && (
                      <span className="late">{wrong[`outcomes.measures.${index}.measureId`]}</span>
                    )}
                  </chakra.span>
                  <TextField
                    label={`${phrase('outcomes.planned')}${measure.unit.en ? `, ${measure.unit.en}` : ''}`}
                    inputMode="decimal"
                    value={typedAs(planned)}
                    set={(typed) =>
                      put({
                        measures: outcomes.measures.map((m) =>
                          m.measureId === measure.id
                            ? { ...m, planned: typed.trim() ? Number(typed) : null }
                            : m,
                        ),
                      })
                    }
                    error={wrong[`outcomes.measures.${index}.planned`]}
                  />
                  <Button
                    look="plain"
                    marginTop="22px"
                    aria-label={phrase('outcomes.takeAway', { name })}
                    onClick={() =>
                      put({ measures: outcomes.measures.filter((m) => m.measureId !== measure.id) })
                    }
                  >
                    <X size={14} aria-hidden />
                  </Button>
                </chakra.div>
              );
            })}
            {left.length > 0 && (
              <chakra.div marginBottom="10px">
                <Menu
                  trigger={
                    <Button>
                      <Plus size={14} aria-hidden /> {phrase('outcomes.addOne')}
                    </Button>
                  }
                  entries={left.map((m) => ({
                    label: readTexts(m.name, 'en'),
                    run: () => put({ measures: [...outcomes.measures, { measureId: m.id, planned: null }] }),
                  }))}
                />
              </chakra.div>
            )}
            <chakra.h4 marginTop="6px">{phrase('outcomes.window')}</chakra.h4>
            <div className="pair">
              <TextField
                label={phrase('outcomes.opensDays')}
                inputMode="numeric"
                value={String(outcomes.opensDays)}
                set={(v) => put({ opensDays: Math.trunc(Number(v)) })}
                error={wrong['outcomes.opensDays']}
              />
              <TextField
                label={phrase('outcomes.closesDays')}
                inputMode="numeric"
                value={String(outcomes.closesDays)}
                set={(v) => put({ closesDays: Math.trunc(Number(v)) })}
                error={wrong['outcomes.closesDays']}
                consequence={
                  window
                    ? phrase('outcomes.windowIs', { from: at(window.from), until: at(window.until) })
                    : undefined
                }
              />
            </div>
            <Loaded of={choices}>
              {({ initiatives }) =>
                initiatives.length > 0 && (
                  <SeveralOf
                    label={phrase('outcomes.initiatives')}
                    value={outcomes.initiativeIds}
                    set={(initiativeIds) => put({ initiativeIds })}
                    choices={initiatives.map((i) => ({ value: i.id, label: i.name }))}
                    error={wrong.outcomes}
                  />
                )
              }
            </Loaded>
          </>
        );
      }}
    </Loaded>
  );
}
