import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { placed } from '#web/kit/placed.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';

type Result = Answer<'GET /api/events/:id/surveys/:survey'>['results'][number];

const percent = (share: number): number => Math.round(share * 100);
const figure = (value: number): string => value.toFixed(1);

/** What was said to one question: in a sentence, then counted; beside groups and beside an earlier year, where asked for. */
export function QuestionResult({ result: r }: { result: Result }) {
  const { day } = useSaying();
  return (
    <chakra.section margin="20px 0" borderTop="1px solid" borderColor="line" paddingTop="10px">
      <chakra.h3 margin="0">
        {r.question.prompt.en}
        {r.sessions > 0 && (
          <span className="soft"> · {phrase('surveys.allSessions', { n: r.sessions })}</span>
        )}
        {r.session && <span className="soft"> · {r.session.title.en}</span>}
        {r.retired && <span className="soft"> · {phrase('surveys.retired')}</span>}
      </chakra.h3>
      <chakra.p margin="2px 0 6px">{r.sentence}</chakra.p>
      {r.reworded.map((w) => (
        <p key={w.at} className="soft">
          {phrase('surveys.reworded', { date: day(w.at), answered: w.answered, was: w.was })}
        </p>
      ))}
      {r.recommend && <Recommended of={r.recommend} />}
      {r.answered > 0 &&
        r.choices.length > 0 &&
        (r.recommend ? (
          <chakra.details>
            <chakra.summary cursor="pointer" color="verdigris">
              {phrase('surveys.everyPoint')}
            </chakra.summary>
            <Choices result={r} />
          </chakra.details>
        ) : (
          <Choices result={r} />
        ))}
      {r.places.length > 0 && <Places result={r} />}
      {r.texts.length > 0 && <Words result={r} />}
      {r.earlier && (r.earlier.sentence || r.earlier.was) && (
        <chakra.p margin="6px 0 0">
          {r.earlier.sentence}
          {r.earlier.was && <span className="soft"> {phrase('surveys.was', { was: r.earlier.was })}</span>}
        </chakra.p>
      )}
      {r.groups.length > 0 && <Groups result={r} />}
    </chakra.section>
  );
}

/** The heading row of a table: what each column is, and whether it has figures. A column without a name has only what the others say. */
function Heads({ of }: { of: readonly (readonly [string, 'n'?])[] }) {
  return (
    <thead>
      <tr>
        {of.map(([words, figures], at) => (
          <th key={at} scope="col" className={figures} aria-hidden={words === '' || undefined}>
            {words}
          </th>
        ))}
      </tr>
    </thead>
  );
}

/** Every choice with its share, and the bounds it lies within; beside it that of before. */
function Choices({ result: r }: { result: Result }) {
  const before = new Map(r.earlier?.choices.map((c) => [c.id, c.count]) ?? []);
  const then = r.earlier?.n ?? 0;
  return (
    <div className="table still">
      <table>
        <Heads
          of={[
            [phrase('surveys.answer')],
            [''],
            [phrase('surveys.share'), 'n'],
            [phrase('surveys.between'), 'n'],
            [phrase('surveys.answers'), 'n'],
            ...(before.size > 0 ? [[phrase('surveys.earlier'), 'n'] as const] : []),
          ]}
        />
        <tbody>
          {r.choices.map((c) => (
            <tr key={c.id}>
              <td>{c.label}</td>
              <chakra.td width={{ base: '90px', md: '240px' }}>
                <Bar share={c.share} />
              </chakra.td>
              <td className="n">{percent(c.share.value)}%</td>
              <td className="n">
                {percent(c.share.low)}–{percent(c.share.high)}%
              </td>
              <td className="n">{c.count}</td>
              {before.size > 0 && (
                <td className="n">
                  {before.has(c.id) && then ? `${percent(before.get(c.id)! / then)}%` : ''}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** A share as a bar, with its bounds as a line across its end. The table says the same in figures. */
function Bar({ share }: { share: Result['choices'][number]['share'] }) {
  return (
    <chakra.span display="block" position="relative" height="12px" aria-hidden="true">
      <chakra.span
        position="absolute"
        left="0"
        top="1px"
        height="10px"
        background="slate"
        opacity="0.5"
        style={placed({ width: `${share.value * 100}%` })}
      />
      <chakra.span
        position="absolute"
        top="5.5px"
        height="1px"
        background="ink"
        style={placed({ left: `${share.low * 100}%`, width: `${(share.high - share.low) * 100}%` })}
      />
    </chakra.span>
  );
}

/** Who would, who is between, who would not: one line parted in three. */
function Recommended({ of }: { of: NonNullable<Result['recommend']> }) {
  const all = of.would + of.between + of.not;
  const parts = [
    { label: phrase('surveys.wouldDo'), n: of.would, background: 'verdigris', color: 'onVerdigris' },
    { label: phrase('surveys.between78'), n: of.between, background: 'line', color: 'ink' },
    { label: phrase('surveys.wouldNot'), n: of.not, background: 'soft', color: 'sheet' },
  ].filter((p) => p.n > 0);
  return (
    <chakra.div display="flex" gap="2px" maxWidth="620px" margin="0 0 8px" fontSize="13px">
      {parts.map((p) => (
        <chakra.span
          key={p.label}
          background={p.background}
          color={p.color}
          padding="3px 6px"
          minWidth="fit-content"
          whiteSpace="nowrap"
          style={placed({ width: `${(p.n / all) * 100}%` })}
        >
          {p.label} {p.n}
        </chakra.span>
      ))}
    </chakra.div>
  );
}

/** Choices by their mean place. */
function Places({ result: r }: { result: Result }) {
  return (
    <div className="table still">
      <table>
        <Heads
          of={[[phrase('surveys.answer')], [phrase('surveys.figure'), 'n'], [phrase('surveys.between'), 'n']]}
        />
        <tbody>
          {r.places.map((p) => (
            <tr key={p.id}>
              <td>{p.label}</td>
              <td className="n">{figure(p.mean.value)}</td>
              <td className="n">
                {figure(p.mean.low)}–{figure(p.mean.high)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const Said = chakra('p', {
  base: {
    fontSize: '14px',
    borderLeft: '2px solid',
    borderColor: 'line',
    paddingLeft: '10px',
    margin: '4px 0',
    overflowWrap: 'anywhere',
  },
});

/** How many answers are shown before somebody asks for all. */
const few = 6;

/** Answers in words: those that speak of one thing together, each group with the answer that says most. */
function Words({ result: r }: { result: Result }) {
  const [open, setOpen] = useState<string | null>(null);
  const grouped = new Set(r.terms.flatMap((t) => t.of));
  const rest = r.texts.filter((_, at) => !grouped.has(at));
  const all = open === 'all' ? rest : rest.slice(0, few);
  return (
    <>
      {r.terms.map((t) => (
        <chakra.div key={t.term} margin="6px 0">
          <Button
            look="plain"
            aria-expanded={open === t.term}
            onClick={() => setOpen(open === t.term ? null : t.term)}
          >
            {phrase('surveys.aboutTerm', { term: t.term, count: t.count })}
          </Button>
          {(open === t.term ? t.of.map((at) => r.texts[at]!) : [t.example]).map((text, at) => (
            <Said key={at}>{text}</Said>
          ))}
        </chakra.div>
      ))}
      {rest.length > 0 && r.terms.length > 0 && <p className="soft">{phrase('surveys.otherWords')}</p>}
      {all.map((text, at) => (
        <Said key={at}>{text}</Said>
      ))}
      {rest.length > all.length && (
        <Button look="plain" onClick={() => setOpen('all')}>
          {phrase('surveys.allWords', { count: rest.length })}
        </Button>
      )}
    </>
  );
}

/** Groups beside each other, each with what it differs by from all the others. */
function Groups({ result: r }: { result: Result }) {
  const said = r.groups.some((g) => g.sentence);
  if (!said) return null;
  const figures = r.groups.some((g) => g.figure !== null);
  return (
    <chakra.div className="table still" marginTop="8px">
      <table>
        <Heads
          of={[
            [phrase(r.sessions ? 'surveys.session' : 'surveys.group')],
            [phrase('surveys.answers'), 'n'],
            ...(figures
              ? [[phrase('surveys.figure'), 'n'] as const]
              : r.choices.map((c) => [c.label, 'n'] as const)),
            [phrase('surveys.says')],
          ]}
        />
        <tbody>
          {r.groups.map((g) => (
            <tr key={g.name}>
              <td>{g.name}</td>
              <td className="n">{g.n}</td>
              {figures && <td className="n">{g.figure === null ? '' : figure(g.figure)}</td>}
              {!figures &&
                r.choices.map((c) => {
                  const count = g.choices.find((x) => x.id === c.id)?.count ?? 0;
                  return (
                    <td key={c.id} className="n">
                      {g.n ? `${percent(count / g.n)}%` : ''}
                    </td>
                  );
                })}
              <td>{g.sentence}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </chakra.div>
  );
}
