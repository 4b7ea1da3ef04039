import type { PublicEvent, PublicListing } from '#contract/publicEvent.ts';
import { inLanguage, offerIn } from '#core/events/french.ts';
import { kindIn } from '#core/events/kinds.ts';
import { sayPrices } from '#core/events/prices.ts';
import { sayAmount } from '#core/money/amount.ts';
import { docToHtml } from '#core/text/html.ts';
import { sayTimeOfDay } from '#core/time/face.ts';
import { sayRange, sayShortDate, sayTime, sayZone } from '#core/time/say.ts';
import { fillIn, type Params } from '#core/words/filling.ts';
import type { Language } from '#core/words/language.ts';
import { en } from '#core/words/pages.en.ts';
import { fr } from '#core/words/pages.fr.ts';
import { readTexts } from '#core/words/texts.ts';
import { escapeHtml } from './html.ts';

type Words = { [Key in keyof typeof en]: string };
const catalogues: Record<Language, Words> = { en, fr };

const h = (tag: string, text: string, attributes = ''): string =>
  text ? `<${tag}${attributes}>${escapeHtml(text)}</${tag}>` : '';

/** The frame around a page that is read before any script runs. */
const framed = (organization: string, content: string): string =>
  `<div class="pub early"><div class="org">${escapeHtml(organization)}</div><main>${content}</main></div>`;

/** The text of an event as HTML: what, when, where, what it costs, and the way in. */
export function earlyEvent(event: PublicEvent, organization: { name: string }, language: Language): string {
  const words = catalogues[language];
  const shown = inLanguage(event, language);
  const banner = event.pictures.find((p) => p.id === event.bannerId);
  const t = (key: keyof Words, params: Params = {}) => fillIn(words[key], params, language);
  const when = event.startsLocal
    ? `${sayRange(event.startsLocal, event.endsLocal, language)}${event.doorsLocal ? `, ${t('doors', { time: sayTime(event.doorsLocal, language) })}` : ''} (${sayZone(event.zone)})`
    : '';
  const where = event.place
    ? [event.place.name, event.place.address].filter(Boolean).join(', ')
    : event.online
      ? t('onlineOnly')
      : t('placeLater');
  const facts: [string, string][] = [
    [t('when'), when],
    [t('where'), where],
    [t('good'), event.draws.map((d) => kindIn(d, event.inFrench, language)).join(', ')],
    [t('access'), event.place?.access ?? ''],
  ];
  const price = (amount: number) => (amount === 0 ? t('free') : sayAmount(amount, event.currency, language));
  return framed(
    organization.name,
    [
      banner
        ? `<img class="picture" src="/api/public/pictures/${banner.id}/800.jpg" alt="${escapeHtml((language === 'fr' && banner.alt.fr) || banner.alt.en)}">`
        : '<div class="picture"></div>',
      h('h1', shown.title),
      h('p', shown.subtitle, ' class="soft"'),
      h('p', shown.summary, ' class="soft"'),
      event.state === 'called off' ? h('p', t('calledOff')) : '',
      `<dl>${facts.map(([name, text]) => (text ? h('dt', name) + h('dd', text) : '')).join('')}</dl>`,
      `<div class="text">${docToHtml(shown.description, (id) => `/api/public/pictures/${id}/800.jpg`)}</div>`,
      ...(shown.agenda.sessions.length
        ? [
            h('h2', t('programme')),
            `<ol>${shown.agenda.sessions
              .map((s) =>
                h(
                  'li',
                  [
                    `${s.startsLocal ? `${sayShortDate(s.startsLocal, true, language)} ` : ''}${sayTimeOfDay(s.begins, language)}–${sayTimeOfDay(s.ends, language)}`,
                    readTexts(s.title, language),
                    ...s.speakers,
                    s.room ?? '',
                  ]
                    .filter(Boolean)
                    .join(', '),
                ),
              )
              .join('')}</ol>`,
          ]
        : []),
      h('h2', t('tickets')),
      `<ul>${event.offers
        .map((o) => offerIn(o, language))
        .map((o) => h('li', `${o.name}, ${price(o.price)}`))
        .join('')}</ul>`,
      ...event.faqs.map(
        (f) =>
          `<details><summary>${escapeHtml(readTexts(f.question, language))}</summary>${h('p', readTexts(f.answer, language))}</details>`,
      ),
      event.registerAt
        ? `<p><a href="${escapeHtml(event.registerAt)}" rel="noopener">${escapeHtml(t('registerElsewhere', { site: event.registerAt }))}</a></p>`
        : event.registration === 'closed'
          ? h('p', t('closed'))
          : `<p><a href="/e/${encodeURIComponent(event.slug)}/register">${escapeHtml(t(event.registration === 'full' ? 'joinWaitlist' : 'register'))}</a></p>`,
    ].join(''),
  );
}

/** The list of coming events as HTML. */
export function earlyListing(
  { events }: PublicListing,
  organization: { name: string },
  language: Language,
): string {
  const words = catalogues[language];
  return framed(
    organization.name,
    h('h1', words.comingEvents) +
      (events.length
        ? `<ul>${events
            .map(
              (e) =>
                `<li><a href="/e/${encodeURIComponent(e.slug)}">${escapeHtml(inLanguage(e, language).title)}</a><br>${escapeHtml(
                  [e.startsLocal && sayRange(e.startsLocal, e.endsLocal, language), e.place]
                    .filter(Boolean)
                    .join(' · '),
                )}</li>`,
            )
            .join('')}</ul>`
        : h('p', words.noEvents)),
  );
}

/** The same to stand in a page of somebody else's: the events, each a link to its own page, and a link to all of them. */
export function embeddedListing(
  { events }: PublicListing,
  organization: { name: string },
  origin: string,
  language: Language,
): string {
  const words = catalogues[language];
  return `<div class="pub early embedded">${
    events.length
      ? `<ul>${events
          .map((e) => {
            const shown = inLanguage(e, language);
            return `<li><a href="${escapeHtml(`${origin}/e/${encodeURIComponent(e.slug)}`)}">${escapeHtml(shown.title)}</a><br>${escapeHtml(
              [
                e.startsLocal && sayRange(e.startsLocal, e.endsLocal, language),
                e.place,
                sayPrices(e, e.currency, language),
              ]
                .filter(Boolean)
                .join(' · '),
            )}</li>`;
          })
          .join('')}</ul>`
      : h('p', words.noEvents)
  }<p><a href="${escapeHtml(origin)}/">${escapeHtml(fillIn(words.allOf, { name: organization.name }, language))}</a></p></div>`;
}
