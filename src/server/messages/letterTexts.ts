import type { LetterText, lettersContract } from '#contract/letters.ts';
import { frenchLags } from '#core/messages/lagging.ts';
import { fieldsOfLetter, letterKinds, neededIn, problemsInLetter } from '#core/messages/letters.ts';
import { mergeFields } from '#core/messages/merge.ts';
import { fillSaid, saidIn, wrongInSaid } from '#core/messages/said.ts';
import { BrokenText } from '#core/messages/template.ts';
import { type DirectKind, directTexts } from '#core/messages/texts.ts';
import { plainText } from '#core/text/doc.ts';
import { wrongAt } from '#core/words/problems.ts';
import { record } from '../app/record.ts';
import { insert, once, type Queries } from '../db/database.ts';
import type { Handlers } from '../http/handle.ts';
import { invalid, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { shown } from './letter.ts';

interface VersionRow {
  kind: DirectKind;
  version: number;
  said: LetterText | null;
  setAt: string;
  setBy: string;
}

/** What every letter says by now, where the organization ever said so; read once in a transaction. */
const readCurrent = (tx: Queries): Promise<VersionRow[]> =>
  once(tx, 'letter texts', ['letter_texts'], () =>
    tx.query<VersionRow>(
      'select distinct on (kind) kind, version, said, set_at, set_by from letter_texts order by kind, version desc',
    ),
  );

/** What a letter says at first. */
const firstText = (kind: DirectKind): LetterText => ({
  ...directTexts[kind],
  preview: { en: '' },
  formatted: { en: null, fr: null },
  frenchOf: '',
});

/** What a letter says. */
export async function textOfLetter(tx: Queries, kind: DirectKind): Promise<LetterText> {
  return (await readCurrent(tx)).find((r) => r.kind === kind)?.said ?? firstText(kind);
}

/** What is wrong with a letter: also where it has lost the link without which nobody can do what it is about. */
function problemsWith(kind: DirectKind, said: LetterText) {
  const problems = wrongInSaid(said, 'said.', true, (text) => problemsInLetter(text, kind));
  for (const language of ['en', 'fr'] as const) {
    const { body, formatted } = said;
    const doc = formatted[language];
    const text = `${body[language] ?? ''} ${doc ? plainText(doc) : ''}`;
    if (!text.trim()) continue;
    for (const field of neededIn(kind))
      if (!text.includes(field)) problems.push(wrongAt(`said.body.${language}`, 'link-missing', { field }));
  }
  return problems;
}

export const lettersHandlers: Handlers<typeof lettersContract> = {
  'GET /api/letters': async ({ tx }) => {
    const current = new Map((await readCurrent(tx)).map((r) => [r.kind, r]));
    return letterKinds.map((kind) => {
      const row = current.get(kind);
      const said = row?.said ?? firstText(kind);
      return {
        kind,
        subject: said.subject.en,
        own: Boolean(row?.said),
        setAt: row?.setAt ?? null,
        setBy: row?.setBy ?? '',
        lags: frenchLags(said),
      };
    });
  },

  'GET /api/letters/:kind': async ({ tx, params: { kind } }) => {
    const before = await tx.query<VersionRow>(
      'select kind, version, said, set_at, set_by from letter_texts where kind = $1 order by version desc limit 50',
      [kind],
    );
    const said = before[0]?.said ?? null;
    return {
      kind,
      said: said ?? firstText(kind),
      own: said !== null,
      first: firstText(kind),
      version: before[0]?.version ?? 0,
      fields: [...fieldsOfLetter(kind)],
      before: before.map(({ kind: _, ...row }) => row),
    };
  },

  'PUT /api/letters/:kind': async (c) => {
    const { kind } = c.params;
    const { said, version } = c.body;
    const problems = said ? problemsWith(kind, said) : [];
    if (problems.length) throw invalid(problems);
    // Two who write at once: the second sees what the first wrote.
    await c.tx.query('select 1 from organization for update');
    const [now] = await c.tx.query<{ version: number }>(
      'select coalesce(max(version), 0)::int as version from letter_texts where kind = $1',
      [kind],
    );
    if (now!.version !== version) throw refused('letter-changed');
    await insert(c.tx, 'letter_texts', {
      kind,
      version: version + 1,
      said,
      setAt: c.now,
      setBy: c.staff.name,
    });
    await record(c, 'letter changed', { kind, first: said === null });
    return { done: true };
  },

  'POST /api/letters/:kind/preview': async ({ tx, params: { kind }, body: { said, language } }) => {
    const problems = wrongInSaid(said, 'said.', true, (text) => problemsInLetter(text, kind));
    if (problems.length) throw invalid(problems);
    const { name: organization } = await theOrganization(tx);
    const values = Object.fromEntries(
      fieldsOfLetter(kind).map((field) => [
        field,
        field === 'organization'
          ? organization
          : field === 'name'
            ? 'Mai'
            : `[${mergeFields[field as keyof typeof mergeFields] ?? field.replaceAll('_', ' ')}]`,
      ]),
    );
    try {
      const filled = fillSaid(saidIn(said, language), {}, { own: values });
      const drawn = shown({ ...filled, closing: '', language }, organization);
      return { subject: filled.subject, body: drawn.text, html: drawn.html };
    } catch (error) {
      if (error instanceof BrokenText) throw refused('text-unreadable');
      throw error;
    }
  },
};
