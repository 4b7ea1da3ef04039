import { beforeEach, describe, expect, test } from 'vitest';
import type { LetterText } from '#contract/letters.ts';
import type { Caller, World } from './harness.ts';
import { Scene } from './messageLines.ts';
import { bookFor, type OpenEvent, openEvent } from './scenes.ts';

const scene = new Scene();
let world: World;
let odalys: Caller;
let full: OpenEvent;
let n = 0;
beforeEach(async () => {
  ({ world, odalys } = scene);
  n += 1;
  full = await openEvent(world, {
    title: `Full ${n}`,
    capacity: 1,
    startsLocal: `2028-${String(n).padStart(2, '0')}-02T09:00`,
    endsLocal: `2028-${String(n).padStart(2, '0')}-02T12:00`,
  });
  await bookFor(world, full, ['First']);
});

const params = { kind: 'waitlisted' as const };
const look = () => odalys.call('GET /api/letters/:kind', { params });
const plain = (body: string, french?: string): LetterText => ({
  subject: { en: 'Waiting for {{event}}', ...(french && { fr: 'En attente : {{event}}' }) },
  preview: { en: 'Hold on' },
  body: { en: body, ...(french && { fr: french }) },
  formatted: { en: null, fr: null },
  frenchOf: '',
});
const put = async (said: LetterText | null, version?: number) =>
  odalys.try('PUT /api/letters/:kind', {
    params,
    body: { version: version ?? (await look()).version, said },
  });
/** What whoever joins the waitlist is written. */
const waits = async (given: string, language: 'en' | 'fr' = 'en') => {
  await bookFor(world, full, [given], { language, joinWaitlist: true } as never);
  await world.runner.run();
  const [mail] = await world.app.db.query<{
    id: string;
    subject: string;
    body: string;
    preview: string;
    html: string | null;
  }>(
    `select m.id, k.subject, k.body, m.preview, k.html from messages m join standin_mail k on k.key = m.id::text
     where m.kind = 'waitlisted' and m.event_id = $1 and m.name = $2`,
    [full.id, `${given} Sedge`],
  );
  return mail!;
};

describe('a letter that goes out by itself', () => {
  test('says what the organization wrote, in either language; what was sent stays as it was', async () => {
    expect((await look()).own).toBe(false);
    const before = await waits('Ada');
    expect(before.subject).toBe(`You are on the waitlist: Full ${n}`);
    const saved = await put(
      plain('Dear {{name}}, patience! {{manage_link}}', 'Patience, {{name}} ! {{manage_link}}'),
    );
    expect(saved.status).toBe(200);
    const after = await waits('Bo');
    expect(after).toMatchObject({ subject: `Waiting for Full ${n}`, preview: 'Hold on' });
    expect(after.body).toMatch(/^Dear Bo, patience! http/u);
    expect((await waits('Cléo', 'fr')).body).toMatch(/^Patience, Cléo ! http/u);
    const shown = await odalys.call('GET /api/messages/:id', { params: { id: before.id } });
    expect(shown.subject).toBe(`You are on the waitlist: Full ${n}`);
    const row = (await odalys.call('GET /api/letters')).find((l) => l.kind === 'waitlisted')!;
    expect(row).toMatchObject({ own: true, setBy: 'Odalys Ferrant', lags: false });
    expect((await put(null)).status).toBe(200);
    expect((await waits('Di')).subject).toBe(`You are on the waitlist: Full ${n}`);
    const { before: versions, own } = await look();
    expect(own).toBe(false);
    expect(versions.map((v) => v.said?.subject.en ?? null).slice(0, 2)).toEqual([
      null,
      'Waiting for {{event}}',
    ]);
  });

  test('may be formatted, and is drawn as it is written', async () => {
    const doc = (text: string) => ({
      type: 'doc',
      content: [
        { type: 'heading', attrs: { level: 2 }, content: [{ type: 'text', text: 'Hello {{name}}' }] },
        { type: 'paragraph', content: [{ type: 'text', text }] },
      ],
    });
    const said = {
      ...plain(''),
      formatted: { en: doc('You wait: {{manage_link}}'), fr: null },
    } as unknown as LetterText;
    expect((await put(said)).status).toBe(200);
    const mail = await waits('Eva');
    expect(mail.body).toMatch(/Hello Eva\n\nYou wait: http/u);
    expect(mail.html).toMatch(/<h2[^>]*>Hello Eva<\/h2>/u);
    const drawn = await odalys.call('POST /api/letters/:kind/preview', {
      params,
      body: { said, language: 'en' },
    });
    expect(drawn.html).toContain('Hello Mai');
    expect(drawn.body).toContain('[link to see and change the registration]');
    await put(null);
  });

  test('is refused where it says what nobody knows then, repeats, or has lost its link', async () => {
    const wrong = async (said: LetterText) => {
      const reply = await put(said);
      return [reply.status, reply.problem.fields?.map((f) => f.path)];
    };
    expect(await wrong(plain('{{name}} {{survey_link}} {{manage_link}}'))).toEqual([422, ['said.body.en']]);
    expect(await wrong(plain('{{nobody}} {{manage_link}}'))).toEqual([422, ['said.body.en']]);
    expect(await wrong(plain('{% for x in (1..9999999) %}a{% endfor %} {{manage_link}}'))).toEqual([
      422,
      ['said.body.en'],
    ]);
    expect(await wrong(plain('No link'))).toEqual([422, ['said.body.en']]);
    expect(await wrong(plain('{{manage_link}}', 'Sans lien'))).toEqual([422, ['said.body.fr']]);
    expect(await wrong({ ...plain('{{manage_link}}'), subject: { en: ' ' } })).toEqual([
      422,
      ['said.subject.en'],
    ]);
    expect((await look()).own).toBe(false);
    const preview = await odalys.try('POST /api/letters/:kind/preview', {
      params,
      body: { said: plain('{{nobody}}'), language: 'en' },
    });
    expect(preview.status).toBe(422);
    expect((await odalys.try('GET /api/letters/:kind', { params: { kind: 'reset' as never } })).status).toBe(
      404,
    );
  });

  test('of two who write it at once, the second is told', async () => {
    const { version } = await look();
    const both = await Promise.all([
      put(plain('One {{manage_link}}'), version),
      put(plain('Two {{manage_link}}'), version),
    ]);
    expect(both.map((r) => r.status).sort()).toEqual([200, 409]);
    expect(both.find((r) => r.status === 409)!.problem.code).toBe('letter-changed');
    await put(null);
  });
});
