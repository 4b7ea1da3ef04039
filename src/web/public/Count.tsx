import './holdingWords.ts';
import type { TFunction } from 'i18next';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { outcomesContract } from '#contract/outcomes.ts';
import { readEntries } from '#core/outcomes/entering.ts';
import { sayFigure } from '#core/outcomes/measure.ts';
import { sayRange } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import { readTexts } from '#core/words/texts.ts';
import { type Answer, call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { SuggestedText, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Loaded } from '#web/kit/notices.tsx';
import { EvidenceField } from '#web/outcomes/EvidenceField.tsx';
import { entriesOf, fieldOfEntry } from '#web/outcomes/entries.ts';
import { useAsk } from './asking.ts';
import { language } from './language.ts';
import { Say, Soft, Title, Two } from './parts.tsx';

type Page = Answer<'GET /api/public/count/:token'>;

/** The page behind the poster where people count: what, when and where, with a picture; thanks, and once more. */
export default function Count() {
  const { token = '' } = useParams();
  const { t } = useTranslation();
  const [turn, setTurn] = useState(0);
  const [sent, setSent] = useState(false);
  const page = useAsk('GET /api/public/count/:token', { token }, { everyMs: 60_000 });
  return (
    <Loaded of={page}>
      {(p) => (
        <>
          <Soft marginTop="12px">{(language() === 'fr' && p.eventFr) || p.event}</Soft>
          <Title marginTop="2px">{t('countTitle')}</Title>
          {sent ? (
            <>
              <Say tone="good" role="status">
                {t('countThanks')}
              </Say>
              <SoFar of={p} />
              <Button
                size="go"
                marginTop="12px"
                onClick={() => {
                  setSent(false);
                  setTurn((n) => n + 1);
                }}
              >
                {t('countMore')}
              </Button>
            </>
          ) : p.counting.state !== 'open' || !p.measures.length ? (
            <>
              <Say tone="need">{closed(p, t)}</Say>
              <SoFar of={p} />
            </>
          ) : (
            <Entering key={turn} of={p} token={token} done={() => setSent(true)} />
          )}
        </>
      )}
    </Loaded>
  );
}

/** Why nothing can be counted now. */
function closed({ counting, zone, organization }: Page, t: TFunction): string {
  if (counting.state === 'not yet' && counting.from)
    return t('countNotYet', { when: sayRange(wallOf(counting.from, zone), null, language()) });
  return t('countOver', { organization });
}

/** What everybody has counted so far. */
function SoFar({ of }: { of: Page }) {
  const { t } = useTranslation();
  const shown = of.measures.filter((m) => m.total);
  if (!shown.length) return null;
  return (
    <Soft className="num">
      {t('countSoFar', {
        totals: shown
          .map((m) =>
            m.kind === 'distinct'
              ? `${readTexts(m.name, language())}: ${m.total}`
              : `${readTexts(m.name, language())}: ${sayFigure(m.total!, m, language())}`,
          )
          .join(', '),
      })}
    </Soft>
  );
}

function Entering({ of, token, done }: { of: Page; token: string; done: () => void }) {
  const { t } = useTranslation();
  const [another, setAnother] = useState(false);
  const form = useForm({
    values: {
      said: {} as Record<string, string>,
      countedLocal: '',
      place: '',
      note: '',
      pictureId: null as string | null,
      given: '',
      family: '',
      known: '',
    },
    request: ({ said, countedLocal, ...rest }) =>
      prepare(outcomesContract, 'POST /api/public/count/:token', {
        params: { token },
        body: { ...rest, countedLocal: countedLocal || null, entries: entriesOf(of.measures, said) },
      }),
    check: ({ said }) => readEntries(of.measures, entriesOf(of.measures, said)).wrong,
    fieldOf: (path, { said }) => fieldOfEntry(of.measures, said, path),
    draft: { name: `count ${token.slice(0, 12)}`, keeping: 'tab' },
    after: done,
  });
  return (
    <Form form={form} size="go" submit={t('countDo')}>
      <SoFar of={of} />
      {of.measures.map((m) => {
        const unit = readTexts(m.unit, language());
        const label = `${readTexts(m.name, language())}${unit ? ` (${unit})` : ''}`;
        return m.kind === 'distinct' ? (
          <SuggestedText
            key={m.id}
            form={form}
            name={`said.${m.id}`}
            label={label}
            help={t('countThings')}
            suggestions={of.things.filter((one) => one.measureId === m.id).map((one) => one.thing)}
          />
        ) : (
          <Text key={m.id} form={form} name={`said.${m.id}`} label={label} inputMode="decimal" />
        );
      })}
      {of.me ? (
        <Soft>{t('countAs', { name: of.me })}</Soft>
      ) : (
        <>
          <Two>
            <Text form={form} name="given" label={t('given')} autoComplete="given-name" required={of.named} />
            <Text form={form} name="family" label={t('family')} autoComplete="family-name" />
          </Two>
          {of.named && (
            <Text
              form={form}
              name="known"
              label={t('hereKnown')}
              help={t('hereKnownHelp')}
              autoComplete="email"
              required
            />
          )}
        </>
      )}
      {another ? (
        <>
          <Text form={form} name="countedLocal" label={t('countWhen')} type="datetime-local" />
          <Text form={form} name="place" label={t('countWhere')} />
          <Text form={form} name="note" label={t('countNote')} />
          <EvidenceField
            label={t('countPicture')}
            value={form.values.pictureId}
            set={(pictureId) => form.set({ pictureId })}
            keep={(content) =>
              call('POST /api/public/count/:token/pictures', { params: { token }, body: { content } })
            }
            words={{
              choose: t('countChoose'),
              kept: t('countKept'),
              remove: t('remove'),
              failed: t('countUnread'),
            }}
          />
        </>
      ) : (
        <p>
          <Button look="link" onClick={() => setAnother(true)}>
            {t('countDetails')}
          </Button>
        </p>
      )}
    </Form>
  );
}
