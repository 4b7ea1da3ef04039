import { chakra } from '@chakra-ui/react';
import { type ReactNode, useState } from 'react';
import { useNavigate } from 'react-router';
import { reportsContract } from '#contract/reports.ts';
import { sayFigure } from '#core/outcomes/measure.ts';
import { type Section, sections } from '#core/reports/report.ts';
import { sayShortDate } from '#core/time/say.ts';
import { say as sayWords, words } from '#core/words/spoken.ts';
import { readTexts } from '#core/words/texts.ts';
import { type Answer, addressOf } from '#web/api.ts';
import { Asking } from '#web/kit/Asking.tsx';
import { Button, ButtonAnchor, TextLink } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { LongText, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Loaded, Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction, useAsk } from '#web/parts/ask.ts';
import { sayCount, useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { sayTimes } from '../shares.ts';

type Report = Answer<'GET /api/reports/:id'>;
type Totals = Report['now'];

const headingOf = (section: Section): string => sayWords(words().reports[section]);

/** A report: what we planned, what happened, what it cost, what changed, what we ask, each with its words and its figures. */
export function ReportPage({ id }: { id: string }) {
  const report = useAsk('GET /api/reports/:id', { params: { id } });
  const [writing, setWriting] = useState(false);
  return (
    <chakra.div maxWidth="860px">
      <p>
        <TextLink to="/records?show=reports">{phrase('reports.all')}</TextLink>
      </p>
      <Loaded of={report}>
        {(r) =>
          writing ? (
            <Write report={r} close={() => setWriting(false)} />
          ) : (
            <Read report={r} write={() => setWriting(true)} />
          )
        }
      </Loaded>
    </chakra.div>
  );
}

function Read({ report, write }: { report: Report; write: () => void }) {
  const navigate = useNavigate();
  const [asked, setAsked] = useState(false);
  const remove = useAction('DELETE /api/reports/:id', () => {
    say(phrase('reports.gone'));
    navigate('/records?show=reports');
  });
  return (
    <article>
      <div className="spread">
        <div>
          <chakra.h2 fontSize="22px">{report.title}</chakra.h2>
          <p className="soft">{report.about}</p>
        </div>
        <div className="acts">
          <Button look="main" onClick={write}>
            {phrase('reports.write')}
          </Button>
          <ButtonAnchor
            href={addressOf('GET /api/reports/:id/report.pdf', { id: report.id })}
            target="_blank"
          >
            {phrase('reports.asPdf')}
          </ButtonAnchor>
          <Button look="plain" onClick={() => setAsked(true)}>
            {phrase('reports.throwAway')}
          </Button>
        </div>
      </div>
      {sections.map((section) => (
        <chakra.section key={section} marginTop="18px">
          <h3>
            {headingOf(section)}{' '}
            {!report.written.includes(section) && (
              <small className="soft">{phrase('reports.fromFigures')}</small>
            )}
          </h3>
          <chakra.p whiteSpace="pre-line" maxWidth="72ch">
            {report.words[section]}
          </chakra.p>
          <Figures of={section} report={report} />
        </chakra.section>
      ))}
      <Asking
        open={asked}
        close={() => setAsked(false)}
        title={phrase('reports.throwAwayTitle', { title: report.title })}
        actions={
          <Button
            look="stop"
            disabled={remove.isPending}
            onClick={() => remove.mutate({ params: { id: report.id } })}
          >
            {phrase('reports.throwAway')}
          </Button>
        }
      >
        <p>{phrase('reports.throwAwayText')}</p>
        <Problems of={remove.problem} />
      </Asking>
    </article>
  );
}

/** The figures that stand with a section. */
function Figures({ of, report }: { of: Section; report: Report }) {
  const { money } = useSaying();
  const { now, before, beforeSaid, currency } = report;
  const row = (label: string, figure: (t: Totals) => ReactNode) => ({ label, figure });
  const amount = (pick: (m: Totals['money']) => number) => (t: Totals) => money(pick(t.money), currency);
  const rows =
    of === 'happened'
      ? [
          row(phrase('reports.eventsHeld'), (t) => sayCount(t.events)),
          row(phrase('reports.registered'), (t) => sayCount(t.registered)),
          row(phrase('reports.came'), (t) => sayCount(t.came)),
          row(phrase('reports.people'), (t) => sayCount(t.people)),
          row(phrase('reports.firstTimers'), (t) => sayCount(t.firstTimers)),
          row(phrase('reports.hours'), (t) => sayTimes(t.hours)),
        ]
      : of === 'money'
        ? [
            row(
              phrase('reports.seats'),
              amount((m) => m.seats),
            ),
            row(
              phrase('reports.extras'),
              amount((m) => m.extras),
            ),
            row(
              phrase('reports.gifts'),
              amount((m) => m.gifts),
            ),
            row(
              phrase('reports.costs'),
              amount((m) => -m.costs),
            ),
            row(
              phrase('reports.result'),
              amount((m) => m.seats + m.extras + m.gifts - m.costs),
            ),
          ]
        : [];
  if (rows.length)
    return (
      <FigureTable head={['', report.nowSaid, ...(before ? [beforeSaid] : [])]}>
        {rows.map((r) => (
          <tr key={r.label}>
            <td>{r.label}</td>
            <td className="n">{r.figure(now)}</td>
            {before && <td className="n">{r.figure(before)}</td>}
          </tr>
        ))}
      </FigureTable>
    );
  if (of === 'changed' && report.outcomes.length)
    return (
      <FigureTable
        head={[
          phrase('reports.outcome'),
          report.nowSaid,
          phrase('reports.planned'),
          ...(before ? [beforeSaid] : []),
        ]}
      >
        {report.outcomes.map((o) => (
          <tr key={o.measureId}>
            <td>{readTexts(o.name, 'en')}</td>
            <td className="n">{sayFigure(o.total, o)}</td>
            <td className="n">{o.planned === null ? '' : sayFigure(o.planned, o)}</td>
            {before && <td className="n">{o.before === null ? '' : sayFigure(o.before, o)}</td>}
          </tr>
        ))}
      </FigureTable>
    );
  if (of === 'planned' && report.events.length > 1)
    return (
      <details>
        <chakra.summary className="soft" cursor="pointer">
          {phrase('reports.theEvents')}
        </chakra.summary>
        <FigureTable head={[phrase('reports.event'), phrase('reports.registered'), phrase('reports.came')]}>
          {report.events.map((e) => (
            <tr key={e.id}>
              <td>
                <TextLink to={`/events/${e.id}/wrap-up`}>{e.title}</TextLink>{' '}
                <span className="soft num">
                  {sayShortDate(e.on)} {e.on.slice(0, 4)}
                </span>
              </td>
              <td className="n">{sayCount(e.registered)}</td>
              <td className="n">{sayCount(e.came)}</td>
            </tr>
          ))}
        </FigureTable>
      </details>
    );
  return null;
}

function FigureTable({ head, children }: { head: readonly string[]; children: ReactNode }) {
  return (
    <chakra.div className="table still" marginTop="6px" maxWidth="640px">
      <table>
        <thead>
          <tr>
            {head.map((cell, at) =>
              at === 0 && !cell ? (
                <th key="first" scope="col">
                  <chakra.span srOnly>{phrase('reports.figure')}</chakra.span>
                </th>
              ) : (
                <th key={cell} scope="col" className={at ? 'n' : ''}>
                  {cell}
                </th>
              ),
            )}
          </tr>
        </thead>
        <tbody>{children}</tbody>
      </table>
    </chakra.div>
  );
}

/** Writes the sections: each begins as the figures say it, and stays so where nothing is changed. */
function Write({ report, close }: { report: Report; close: () => void }) {
  const form = useForm({
    values: { title: report.title, words: { ...report.words } as Record<Section, string> },
    request: ({ title, words: typed }) =>
      prepare(reportsContract, 'PUT /api/reports/:id', {
        params: { id: report.id },
        body: {
          title,
          version: report.version,
          words: Object.fromEntries(
            sections.flatMap((s) =>
              report.written.includes(s) || typed[s] !== report.words[s] ? [[s, typed[s]]] : [],
            ),
          ),
        },
      }),
    after: () => {
      say(phrase('common.saved'));
      close();
    },
  });
  return (
    <Form
      form={form}
      submit={phrase('common.save')}
      beside={<Button onClick={close}>{phrase('common.cancel')}</Button>}
    >
      <Text form={form} name="title" label={phrase('reports.name')} required />
      <p className="soft">{phrase('reports.emptyIsFigures')}</p>
      {sections.map((section) => (
        <LongText key={section} form={form} name={`words.${section}`} label={headingOf(section)} rows={5} />
      ))}
    </Form>
  );
}
