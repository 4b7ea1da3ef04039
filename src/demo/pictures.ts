import sharp from 'sharp';
import type { EventPlan } from '#contract/plan.ts';
import { cleanDoc, docOf } from '#core/text/doc.ts';
import { type Actor, type App, inTransaction } from '#server/app/app.ts';
import { first } from '#server/db/database.ts';
import { savePlan } from '#server/events/plan.ts';
import { giveLogo, keepPicture } from '#server/pictures/commands.ts';
import { makeRandom, type Random } from './random.ts';

const frame = (inner: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1600 1000">${inner}</svg>`;
const sky = (top: string, bottom: string, id: string): string =>
  `<defs><linearGradient id="${id}" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="${top}"/><stop offset="1" stop-color="${bottom}"/></linearGradient></defs><rect width="1600" height="1000" fill="url(#${id})"/>`;
const reeds = (random: Random, from: number, to: number, foot: number, colour: string): string =>
  Array.from({ length: 90 }, () => {
    const x = from + random.next() * (to - from);
    const high = 120 + random.next() * 260;
    const lean = random.next() * 40 - 16;
    return `<path d="M${x} ${foot} q ${lean / 2} ${-high / 2} ${lean} ${-high}" stroke="${colour}" stroke-width="5" fill="none"/>${
      random.next() > 0.5
        ? `<ellipse cx="${x + lean}" cy="${foot - high - 26}" rx="8" ry="30" fill="#6B4A2F"/>`
        : ''
    }`;
  }).join('');
const ripples = (random: Random, top: number, colour: string): string =>
  Array.from({ length: 26 }, (_, n) => {
    const y = top + 20 + n * 17;
    const x = random.next() * 1200;
    return `<path d="M${x} ${y} q 90 -8 180 0 t 180 0" stroke="${colour}" stroke-width="3" fill="none" opacity="0.7"/>`;
  }).join('');
const canoe = (x: number, y: number, colour: string): string =>
  `<path d="M${x} ${y} q 170 70 340 0 q -24 66 -96 66 h -148 q -72 0 -96 -66z" fill="${colour}"/>${[110, 220]
    .map(
      (at) =>
        `<circle cx="${x + at}" cy="${y - 58}" r="20" fill="#5B3A29"/><path d="M${x + at - 26} ${y + 22} q 26 -96 52 0z" fill="#C2662D"/>`,
    )
    .join('')}<path d="M${x + 60} ${y - 70} L${x + 150} ${y + 80}" stroke="#3A2A1E" stroke-width="7"/>`;

const badge = (ground: string, inner: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 400"><rect width="400" height="400" fill="${ground}"/>${inner}</svg>`;

/** Pictures of the marsh, drawn: nobody and nothing on them is real. */
const drawings: Readonly<Record<string, (random: Random) => string>> = {
  lagoon: (r) =>
    frame(
      `${sky('#DCE9EC', '#F6E6C8', 'a')}<circle cx="1180" cy="330" r="80" fill="#F9D9A0"/><path d="M0 470 q 400 -90 800 -20 t 800 -30 V600 H0z" fill="#6E8F7A"/><rect y="540" width="1600" height="460" fill="#8FB3AE"/>${ripples(r, 540, '#C5DAD4')}${canoe(360, 700, '#8C3B2A')}${canoe(900, 620, '#2F5D62')}${reeds(r, 0, 300, 1000, '#4C6B4F')}${reeds(r, 1350, 1600, 1000, '#4C6B4F')}`,
    ),
  boardwalk: (r) =>
    frame(
      `${sky('#CFE0E8', '#EDEFE2', 'b')}<rect y="520" width="1600" height="480" fill="#7E9A6B"/>${reeds(r, 0, 640, 820, '#55734B')}${reeds(r, 960, 1600, 820, '#55734B')}<path d="M760 470 L840 470 L1180 1000 L420 1000z" fill="#A98A63"/>${Array.from({ length: 16 }, (_, n) => `<path d="M${752 - n * 22} ${490 + n * 34} H${848 + n * 22}" stroke="#7B6244" stroke-width="6"/>`).join('')}`,
    ),
  landing: (r) =>
    frame(
      `${sky('#D6E5EA', '#F3EAD2', 'd')}<path d="M0 430 q 500 -70 1600 -10 V560 H0z" fill="#7E9A6B"/><rect y="540" width="1600" height="460" fill="#8FB3AE"/>${ripples(r, 560, '#C5DAD4')}<path d="M700 560 L900 560 L1120 1000 L480 1000z" fill="#A98A63"/>${Array.from({ length: 12 }, (_, n) => `<path d="M${692 - n * 18} ${586 + n * 36} H${908 + n * 18}" stroke="#7B6244" stroke-width="6"/>`).join('')}<path d="M690 560 V470 M910 560 V470 M560 860 V720 M1040 860 V720" stroke="#5B4632" stroke-width="16"/><rect x="1180" y="330" width="190" height="230" fill="#8C6F4E"/><path d="M1160 340 L1275 250 L1390 340z" fill="#5A3B2E"/><rect x="1248" y="450" width="54" height="110" fill="#3A2A1E"/>${reeds(r, 0, 380, 1000, '#4C6B4F')}${reeds(r, 1300, 1600, 1000, '#4C6B4F')}`,
    ),
  heron: (r) =>
    frame(
      `${sky('#3E5468', '#D98F5C', 'c')}<circle cx="420" cy="560" r="110" fill="#F3C27A"/><rect y="620" width="1600" height="380" fill="#4B5F6B"/>${ripples(r, 620, '#D9A36E')}<path d="M1000 760 q 20 -180 -30 -260 q -24 -56 18 -96 q 34 -22 60 4 l 96 24 l -92 6 q -30 10 -18 50 q 40 110 34 270z" fill="#22303A"/><path d="M1010 750 V900 M1044 750 V900" stroke="#22303A" stroke-width="8"/>${reeds(r, 1200, 1600, 1000, '#22303A')}`,
    ),
};

const marks: Readonly<Record<string, string>> = {
  trust: badge(
    '#2F5D4F',
    '<path d="M60 268 q 70 -24 140 0 t 140 0" stroke="#DCE6E1" stroke-width="14" fill="none"/><path d="M90 308 q 55 -20 110 0 t 110 0" stroke="#9DB8AD" stroke-width="12" fill="none"/>' +
      [150, 205, 258]
        .map(
          (x, n) =>
            `<path d="M${x} 258 q 6 -70 ${n * 8 - 4} ${-128 - n * 14}" stroke="#DCE6E1" stroke-width="9" fill="none"/><ellipse cx="${x + n * 8 - 4}" cy="${112 - n * 14}" rx="11" ry="34" fill="#D9A36E"/>`,
        )
        .join(''),
  ),
  boats: badge(
    '#DCE9EC',
    '<path d="M70 210 q 130 56 260 0 q -18 62 -72 62 h -116 q -54 0 -72 -62z" fill="#8C3B2A"/><path d="M120 120 L250 292" stroke="#3A2A1E" stroke-width="12"/><path d="M100 318 q 50 -16 100 0 t 100 0" stroke="#2F5D62" stroke-width="11" fill="none"/>',
  ),
};

const text = (words: string) => ({ type: 'text', text: words });
const paragraph = (words: string) => ({ type: 'paragraph', content: [text(words)] });
const item = (words: string) => ({ type: 'listItem', content: [paragraph(words)] });
const row = (kind: string, ...cells: string[]) => ({
  type: 'tableRow',
  content: cells.map((words) => ({ type: kind, content: [paragraph(words)] })),
});

/** What the pages of the larger events show: pictures, formatted text, and French. */
export async function dressPages(app: App, staffId: string | null): Promise<void> {
  const actor: Actor = { name: 'Odalys Ferrant', staffId, requestId: null };
  const random = makeRandom(7);
  const kept = async (name: string, en: string, fr: string, x = 0.5, y = 0.55) =>
    (
      await keepPicture(app, actor, {
        bytes: await sharp(Buffer.from(drawings[name]!(random)))
          .resize(1600)
          .png()
          .toBuffer(),
        alt: { en, fr },
        shape: 'whole',
        unitId: null,
        focus: { x, y },
      })
    ).id;
  const lagoon = await kept(
    'lagoon',
    'Two canoes on the lagoon, reeds on both sides',
    'Deux canots sur la lagune',
    0.45,
    0.7,
  );
  const boardwalk = await kept(
    'boardwalk',
    'The boardwalk through the reedbed',
    'La passerelle dans la roselière',
  );
  const heron = await kept('heron', 'A heron at dusk by the water', 'Un héron au crépuscule', 0.65, 0.6);
  const landing = await kept('landing', 'The landing with the boat shed', 'Le quai et le hangar à bateaux');
  const mark = async (name: string, en: string, fr: string) =>
    (
      await keepPicture(app, actor, {
        bytes: await sharp(Buffer.from(marks[name]!)).resize(400).png().toBuffer(),
        alt: { en, fr },
        shape: 'whole',
        unitId: null,
        focus: { x: 0.5, y: 0.5 },
      })
    ).id;
  const trust = await mark('trust', 'Reeds over water', 'Roseaux sur l’eau');
  const boats = await mark('boats', 'A canoe', 'Un canot');
  await inTransaction(app, actor, async (w) => {
    const unit = await first<{ id: string }>(w.tx, "select id from units where name = 'Small Boats'");
    await giveLogo(w, null, trust);
    if (unit) await giveLogo(w, unit.id, boats);
    await w.tx.query("update venues set picture_id = $1 where name = 'Sluice Landing'", [landing]);
  });
  await save(app, actor, 'Open Water Day', {
    subtitle: 'A day on the lagoon, for everybody',
    faqs: [
      {
        id: app.ids.id(),
        question: { en: 'Is there parking?', fr: 'Y a-t-il du stationnement ?' },
        answer: {
          en: 'Yes, at the weir, five minutes on foot. Two places beside the landing are kept for those who need them.',
          fr: 'Oui, au barrage, à cinq minutes à pied. Deux places près du quai sont réservées à qui en a besoin.',
        },
      },
      {
        id: app.ids.id(),
        question: { en: 'May the dog come?', fr: 'Le chien peut-il venir ?' },
        answer: {
          en: 'On the shore walk yes, on a leash; not into the boats.',
          fr: 'Sur la rive oui, en laisse ; pas dans les canots.',
        },
      },
    ],
    buttons: [
      {
        id: app.ids.id(),
        label: { en: 'How to get to the landing', fr: 'Comment venir au quai' },
        address: 'https://brackenmere.example/landing',
      },
    ],
    afterwards: {
      en: 'Park at the weir and walk along the dyke. Bring your pass, printed or on your phone.',
      fr: 'Stationnez au barrage et suivez la digue. Apportez votre billet, imprimé ou à l’écran.',
    },
    bannerId: lagoon,
    gallery: [boardwalk, heron],
    notes: 'The key of the boat shed hangs at the office. Ask Imani who brings the second safety boat.',
    description: cleanDoc({
      content: [
        paragraph(
          'Paddle with a guide, take a family canoe, or walk the shore. Boats, paddles and vests are there.',
        ),
        { type: 'heading', attrs: { level: 2 }, content: [text('Bring')] },
        {
          type: 'bulletList',
          content: [item('shoes that may get wet'), item('something warm'), item('water to drink')],
        },
        { type: 'heading', attrs: { level: 2 }, content: [text('The day')] },
        {
          type: 'table',
          content: [
            row('tableHeader', 'When', 'What'),
            row('tableCell', '08:30', 'Doors, and vests for everybody'),
            row('tableCell', '09:00', 'First boats leave the landing'),
            row('tableCell', '12:00', 'Soup at the hut'),
            row('tableCell', '16:30', 'Last boats are back'),
          ],
        },
        paragraph('Questions? Write to hello@brackenmere.example.'),
      ],
    }),
    french: {
      publicTitle: 'Journée sur l’eau',
      subtitle: 'Une journée sur la lagune, pour tout le monde',
      summary:
        'Pagayez sur la lagune dans nos canots, ou longez la rive avec un guide. Aucune expérience requise.',
      description: docOf(
        'Pagayez avec un guide, prenez un canot familial, ou longez la rive. Canots, pagaies et gilets sont sur place.\n\nDes questions ? Écrivez à hello@brackenmere.example.',
      ),
    },
  });
  await save(app, actor, 'Reedbed Symposium', { bannerId: boardwalk });
}

/** Saves a change on the next event of a title. */
async function save(app: App, actor: Actor, title: string, change: Partial<EventPlan>): Promise<void> {
  await inTransaction(app, actor, async (w) => {
    const event = await first<{ id: string; version: number }>(
      w.tx,
      "select id, version from events where public_title = $1 and starts_at > $2 and state <> 'called off' order by starts_at limit 1",
      [title, w.now],
    );
    if (event) await savePlan(w, event.id, event.version, change);
  });
}
