import type { Express } from 'express';
import { sayFigure } from '#core/outcomes/measure.ts';
import { sayShortDate } from '#core/time/say.ts';
import { readTexts } from '#core/words/texts.ts';
import type { App } from '../app/app.ts';
import { languageOf } from '../http/language.ts';
import { Problem } from '../http/problem.ts';
import { progressOf } from './initiatives.ts';

type Progress = Awaited<ReturnType<typeof progressOf>>;

const words = {
  en: {
    of: (value: string, target: string, by: string) => `${value} of ${target}, by ${by}`,
    stands: (value: string, target: string, by: string) => `${value}; ${target} by ${by}`,
    reached: 'Reached',
    missed: 'Not reached',
    none: 'nothing yet',
    gone: 'This is not shown any more.',
  },
  fr: {
    of: (value: string, target: string, by: string) => `${value} sur ${target}, d’ici le ${by}`,
    stands: (value: string, target: string, by: string) => `${value}\u00a0; ${target} d’ici le ${by}`,
    reached: 'Atteint',
    missed: 'Pas atteint',
    none: 'rien encore',
    gone: 'Ceci n’est plus montré.',
  },
} as const;
type Language = keyof typeof words;

const marks: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
const plain = (text: string): string => text.replaceAll(/[&<>"]/gu, (mark) => marks[mark]!);

/** Like the pages of the public; nothing is fetched and nothing runs. */
const style = `body{margin:0;padding:14px 16px;font:15px/1.45 "Instrument Sans",system-ui,sans-serif;background:#FAF7F1;color:#23262D}
h1{font:600 18px/1.3 Literata,Georgia,serif;margin:0 0 2px}p{margin:0;color:#62666F}ul{list-style:none;margin:12px 0 0;padding:0}
li+li{margin-top:12px}b{font-weight:600}i{display:block;height:8px;border:1px solid #1C665F;border-radius:3px;margin:4px 0;overflow:hidden}
i span{display:block;height:100%;background:#1C665F}
@media(prefers-color-scheme:dark){body{background:#1B1C1F;color:#ECE8DF}p{color:#A7A9AE}i{border-color:#6FBDB3}i span{background:#6FBDB3}}`;

const page = (language: Language, title: string, body: string): string =>
  `<!doctype html><html lang="${language}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>${plain(title)}</title><style>${style}</style></head><body>${body}</body></html>`;

function goalShown(goal: Progress['goals'][number], language: Language): string {
  const said = words[language];
  const value = goal.value === null ? said.none : sayFigure(goal.value, goal, language);
  const by = `${sayShortDate(goal.by, false, language)} ${goal.by.slice(0, 4)}`;
  const target = sayFigure(goal.target, goal, language);
  const growing = goal.direction === 'more' && goal.kind !== 'latest' && goal.target > 0;
  const share = Math.min(100, Math.round(((goal.value ?? 0) / goal.target) * 1000) / 10);
  const state = goal.state === 'reached' || goal.state === 'missed' ? ` ${said[goal.state]}.` : '';
  return `<li><b>${plain(readTexts(goal.name, language))}</b>${
    growing ? `<i><span style="width:${share}%"></span></i>` : '<br>'
  }${plain((growing ? said.of : said.stands)(value, target, by))}.${state}</li>`;
}

/** The progress of an initiative on a page that other pages frame: whoever has its address, and nobody else, finds it. */
export function serveWidget(server: Express, app: App): void {
  server.get('/widget/:token', async (request, response) => {
    const asked = request.query.lang;
    const language: Language = (asked === 'fr' || asked === 'en' ? asked : languageOf(request)) as Language;
    response
      .set(
        'content-security-policy',
        "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors *; base-uri 'none'; form-action 'none'",
      )
      .set('cache-control', 'public, max-age=300')
      .set('cross-origin-resource-policy', 'cross-origin')
      .removeHeader('x-frame-options');
    response.type('html');
    try {
      const progress = await progressOf({ tx: app.db, now: app.clock.now() }, request.params.token);
      const goals = progress.goals.map((g) => goalShown(g, language)).join('');
      response.send(
        page(
          language,
          progress.name,
          `<h1>${plain(progress.name)}</h1><p>${plain(progress.organization)}</p><ul>${goals}</ul>`,
        ),
      );
    } catch (error) {
      if (!(error instanceof Problem && error.status === 404)) throw error;
      response.status(404).send(page(language, words[language].gone, `<p>${words[language].gone}</p>`));
    }
  });
}
