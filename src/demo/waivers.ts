import { firstBefore, linkText } from '#core/waivers/chain.ts';
import type { WaiverText } from '#core/waivers/form.ts';
import type { Work } from '#server/app/app.ts';
import { type Database, insert } from '#server/db/database.ts';
import { sha256 } from '#server/db/ids.ts';

/** The waivers of the organization, by what the demo calls them. */
export type DemoWaiver = 'water' | 'children' | 'mudlarks';

interface Founded {
  version: number;
  /** How many versions there were before this one, said to be so many. */
  audience: 'everyone' | 'minors';
  holds: unknown;
  standing: boolean;
  slug: string | null;
  text: WaiverText;
}

const photos = {
  id: 'photos',
  kind: 'choice' as const,
  heading: { en: 'Photographs', fr: 'Photographies' },
  text: {
    en: 'Photographs taken on the day may show me, or the child I sign for, on the Trust’s pages and in its letter.',
    fr: 'Des photographies prises ce jour-là peuvent me montrer, ou montrer l’enfant pour qui je signe, sur les pages du Trust et dans sa lettre.',
  },
};

const demoWaivers: Readonly<Record<DemoWaiver, Founded>> = {
  water: {
    version: 3,
    audience: 'everyone',
    holds: { for: 'season', ends: '10-31' },
    standing: true,
    slug: 'on-the-water',
    text: {
      title: { en: 'On the water', fr: 'Sur l’eau' },
      clauses: [
        {
          id: 'swim',
          kind: 'agree',
          heading: { en: 'Swimming', fr: 'Savoir nager' },
          text: {
            en: 'I can swim fifty metres in clothes, or the person I sign for can.',
            fr: 'Je sais nager cinquante mètres tout habillé, ou la personne pour qui je signe le sait.',
          },
        },
        {
          id: 'jacket',
          kind: 'agree',
          heading: { en: 'Life jackets', fr: 'Gilets de sauvetage' },
          text: {
            en: 'A life jacket is worn on the water at all times.',
            fr: 'Un gilet de sauvetage se porte sur l’eau en tout temps.',
          },
        },
        {
          id: 'risk',
          kind: 'agree',
          heading: { en: 'Risk', fr: 'Risques' },
          text: {
            en: 'I understand that cold water, wind and current are dangerous, and take part at my own risk.',
            fr: 'Je comprends que l’eau froide, le vent et le courant sont dangereux, et je participe à mes propres risques.',
          },
        },
      ],
      questions: [],
    },
  },
  children: {
    version: 2,
    audience: 'minors',
    holds: { for: 'event' },
    standing: false,
    slug: null,
    text: {
      title: { en: 'Children in our care', fr: 'Enfants sous notre garde' },
      clauses: [
        {
          id: 'care',
          kind: 'agree',
          heading: { en: 'First aid', fr: 'Premiers soins' },
          text: {
            en: 'The leaders may give first aid and call a doctor.',
            fr: 'Les responsables peuvent donner les premiers soins et appeler un médecin.',
          },
        },
        {
          id: 'collect',
          kind: 'agree',
          heading: { en: 'Going home', fr: 'Le retour' },
          text: {
            en: 'I collect the child at the end, or name who does.',
            fr: 'Je viens chercher l’enfant à la fin, ou je dis qui le fera.',
          },
        },
      ],
      questions: [],
    },
  },
  mudlarks: {
    version: 1,
    audience: 'minors',
    holds: { for: 'year' },
    standing: true,
    slug: 'mudlarks-this-year',
    text: {
      title: { en: 'Mudlarks, for the year', fr: 'Mudlarks, pour l’année' },
      clauses: [
        {
          id: 'about',
          kind: 'read',
          heading: { en: 'What Mudlarks do', fr: 'Ce que font les Mudlarks' },
          text: {
            en: 'Children of 7 to 13 wade, dig, build and count in the marsh, with one leader for six of them. They come home wet.',
            fr: 'Des enfants de 7 à 13 ans pataugent, creusent, construisent et comptent dans le marais, avec un responsable pour six. Ils rentrent mouillés.',
          },
        },
        {
          id: 'care',
          kind: 'agree',
          heading: { en: 'First aid', fr: 'Premiers soins' },
          text: {
            en: 'The leaders may give first aid, and call a doctor where I cannot be reached.',
            fr: 'Les responsables peuvent donner les premiers soins, et appeler un médecin si l’on ne peut me joindre.',
          },
        },
        {
          id: 'water',
          kind: 'initials',
          heading: { en: 'Water', fr: 'L’eau' },
          text: {
            en: 'I know that there is open water, and have told the child to stay where the leaders are.',
            fr: 'Je sais qu’il y a de l’eau libre, et j’ai dit à l’enfant de rester où sont les responsables.',
          },
        },
        photos,
      ],
      questions: [
        {
          id: '0197f000-0000-7000-8000-000000000001',
          kind: 'text',
          prompt: { en: 'Whom do we call, and on which number?', fr: 'Qui appeler, et à quel numéro ?' },
          help: { en: '', fr: '' },
          required: true,
          choices: [],
          least: null,
          most: null,
          health: false,
        },
        {
          id: '0197f000-0000-7000-8000-000000000002',
          kind: 'one of',
          prompt: { en: 'How well does the child swim?', fr: 'L’enfant sait-il nager ?' },
          help: { en: '', fr: '' },
          required: true,
          choices: ['Not at all', 'A little', 'Well'],
          least: null,
          most: null,
          health: false,
        },
        {
          id: '0197f000-0000-7000-8000-000000000003',
          kind: 'long text',
          prompt: { en: 'Allergies and medicines', fr: 'Allergies et médicaments' },
          help: {
            en: 'Read by the leaders of the day alone, and deleted after the year.',
            fr: 'Lu par les seuls responsables du jour, et supprimé après l’année.',
          },
          required: false,
          choices: [],
          least: null,
          most: null,
          health: true,
        },
      ],
    },
  },
};

/** A version as past signatures are written for it. */
export interface WaiverWritten {
  id: string;
  versionId: string;
  version: number;
  text: WaiverText;
}

/** Writes the waivers down; what was before their newest version nobody kept. */
export async function storeWaivers({
  tx,
  app,
  now,
}: Pick<Work, 'tx' | 'app' | 'now'>): Promise<Record<DemoWaiver, string>> {
  const ids = {} as Record<DemoWaiver, string>;
  for (const [name, { version, text, ...settings }] of Object.entries(demoWaivers) as [
    DemoWaiver,
    Founded,
  ][]) {
    ids[name] = app.ids.id();
    await insert(tx, 'waivers', { id: ids[name], title: text.title.en, ...settings, createdAt: now });
    await insert(tx, 'waiver_versions', {
      id: app.ids.id(),
      waiverId: ids[name],
      version,
      text,
      material: true,
      madeAt: now,
      madeBy: 'Odalys Ferrant',
    });
  }
  return ids;
}

/** Puts what was signed in past years into the chain, in the order it was signed. */
export async function chainPast(db: Database): Promise<number> {
  const signed = await db.query<{ id: string; sha256: string }>(
    'select id, sha256 from signatures order by at, id',
  );
  let before = firstBefore;
  const links = signed.map(({ id, sha256: hash }, at) => {
    const link = { number: at + 1, signatureId: id, sha256: hash, answersSha256: '', before };
    before = sha256(linkText(link));
    return { ...link, hash: before };
  });
  for (let at = 0; at < links.length; at += 500)
    await insert(db, 'signature_chain', links.slice(at, at + 500));
  return links.length;
}
