import { useState } from 'react';
import { measuresContract } from '#contract/measures.ts';
import { directions, entrants, measureKinds } from '#core/outcomes/measure.ts';
import { readTexts } from '#core/words/texts.ts';
import type { Answer } from '#web/api.ts';
import { RegisterSection, RowActs } from '#web/parts/RegisterSection.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../kit/Button.tsx';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { Choose, Text, Tick } from '../kit/form/fields.tsx';
import { type Prepared, prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';

type Measure = Answer<'GET /api/measures'>[number];

const kindWords = {
  sum: phrase('outcomes.kindSum'),
  count: phrase('outcomes.kindCount'),
  latest: phrase('outcomes.kindLatest'),
  distinct: phrase('outcomes.kindDistinct'),
} as const;
const entrantWords = {
  team: phrase('outcomes.byTeam'),
  crew: phrase('outcomes.byCrew'),
  people: phrase('outcomes.byPeople'),
  anyone: phrase('outcomes.byAnyone'),
} as const;

/** What the organization counts. */
export function Measures() {
  const measures = useAsk('GET /api/measures');
  const [changing, setChanging] = useState<Measure | 'new' | null>(null);
  const close = useAction('PUT /api/measures/:id/closed');
  return (
    <>
      <Problems of={close.problem} />
      <Loaded of={measures}>
        {(all) => (
          <RegisterSection
            title={phrase('outcomes.measures')}
            empty={phrase('outcomes.noMeasures')}
            add={phrase('outcomes.addMeasure')}
            act={() => setChanging('new')}
            rows={all.map((m) => {
              const name = readTexts(m.name, 'en');
              return (
                <li key={m.id} className="spread">
                  <span>
                    <span className="name">{name}</span>{' '}
                    <span className="soft">
                      {[m.unit.en, kindWords[m.kind].toLowerCase(), m.closed && phrase('outcomes.closed')]
                        .filter(Boolean)
                        .join(', ')}
                    </span>
                  </span>
                  <RowActs>
                    <span className="soft num">
                      {phrase('outcomes.usedAt', { tallies: m.tallies, events: m.events })}
                    </span>
                    <Button
                      look="link"
                      color="verdigris"
                      aria-label={phrase('outcomes.changeMeasure', { name })}
                      onClick={() => setChanging(m)}
                    >
                      {phrase('common.change')}
                    </Button>
                    <Button
                      look="link"
                      disabled={close.isPending}
                      aria-label={phrase(m.closed ? 'outcomes.reopenNamed' : 'outcomes.closeNamed', { name })}
                      onClick={() =>
                        close.mutate(
                          { params: { id: m.id }, body: { closed: !m.closed } },
                          {
                            onSuccess: () =>
                              say(phrase(m.closed ? 'outcomes.openNow' : 'outcomes.closedNow', { name })),
                          },
                        )
                      }
                    >
                      {phrase(m.closed ? 'outcomes.reopen' : 'outcomes.close')}
                    </Button>
                  </RowActs>
                </li>
              );
            })}
          />
        )}
      </Loaded>
      {changing && <Change measure={changing === 'new' ? null : changing} done={() => setChanging(null)} />}
    </>
  );
}

const typed = (of: string | undefined): string => of ?? '';

/** Adds a measure, or changes one. What it counts and in which unit stays once something was counted. */
function Change({ measure, done }: { measure: Measure | null; done: () => void }) {
  const settled = (measure?.tallies ?? 0) > 0;
  const form = useForm({
    values: {
      name: { en: typed(measure?.name.en), fr: typed(measure?.name.fr) },
      unit: { en: typed(measure?.unit.en), fr: typed(measure?.unit.fr) },
      kind: (measure?.kind ?? 'sum') as string,
      direction: (measure?.direction ?? 'more') as string,
      decimals: String(measure?.decimals ?? 0),
      most: measure?.most ? String(measure.most) : '',
      enteredBy: (measure?.enteredBy ?? 'people') as string,
      lookedAt: measure?.lookedAt ?? false,
    },
    request: ({ decimals, most, ...rest }): Prepared<unknown> => {
      const body = {
        ...rest,
        decimals: /^\d+$/u.test(decimals.trim()) ? Number(decimals) : Number.NaN,
        most: most.trim() ? Number(most) : null,
      } as never;
      return measure
        ? prepare(measuresContract, 'PUT /api/measures/:id', { params: { id: measure.id }, body })
        : prepare(measuresContract, 'POST /api/measures', { body });
    },
    after: () => {
      say(phrase(measure ? 'common.saved' : 'common.added'));
      done();
    },
  });
  return (
    <FormDialog
      form={form}
      title={
        measure
          ? phrase('outcomes.changeMeasure', { name: readTexts(measure.name, 'en') })
          : phrase('outcomes.addMeasure')
      }
      submit={phrase(measure ? 'common.save' : 'outcomes.addMeasure')}
      close={done}
    >
      <div className="pair">
        <Text form={form} name="name.en" label={phrase('common.name')} required />
        <Text
          form={form}
          name="name.fr"
          label={phrase('outcomes.inFrench', { label: phrase('common.name') })}
        />
      </div>
      {settled && <p className="soft">{phrase('outcomes.settled')}</p>}
      <div className="pair">
        <Text form={form} name="unit.en" label={phrase('outcomes.unit')} help={phrase('outcomes.unitHelp')} />
        <Text
          form={form}
          name="unit.fr"
          label={phrase('outcomes.inFrench', { label: phrase('outcomes.unit') })}
        />
      </div>
      <div className="pair">
        <Choose
          form={form}
          name="kind"
          label={phrase('outcomes.howItCounts')}
          choices={measureKinds.map((kind) => ({ value: kind, label: kindWords[kind] }))}
        />
        <Choose
          form={form}
          name="direction"
          label={phrase('outcomes.direction')}
          choices={directions.map((way) => ({
            value: way,
            label: phrase(way === 'more' ? 'outcomes.more' : 'outcomes.less'),
          }))}
        />
      </div>
      <div className="pair">
        <Text form={form} name="decimals" label={phrase('outcomes.decimals')} inputMode="numeric" />
        <Text
          form={form}
          name="most"
          label={phrase('outcomes.most')}
          help={phrase('outcomes.mostHelp')}
          inputMode="decimal"
        />
      </div>
      <Choose
        form={form}
        name="enteredBy"
        label={phrase('outcomes.enteredBy')}
        choices={entrants.map((who) => ({ value: who, label: entrantWords[who] }))}
      />
      <Tick form={form} name="lookedAt" label={phrase('outcomes.lookedAt')} />
    </FormDialog>
  );
}
