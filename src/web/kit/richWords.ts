import type { Language } from '#core/words/language.ts';

/** What the editor of formatted text says; it is loaded with it. */
interface RichWords {
  formatting: (what: string) => string;
  format: Record<
    | 'bold'
    | 'italic'
    | 'heading'
    | 'small'
    | 'list'
    | 'numbers'
    | 'quote'
    | 'link'
    | 'table'
    | 'row'
    | 'column'
    | 'lessRow'
    | 'lessColumn'
    | 'noTable'
    | 'embed',
    string
  >;
  ofMost: (length: number, most: number) => string;
  insert: string;
  address: string;
  noAddress: string;
  noEmbed: string;
  embedHelp: string;
}

export const richWordsIn: Readonly<Record<Language, RichWords>> = {
  en: {
    formatting: (what) => `Formatting of ${what}`,
    format: {
      bold: 'Bold',
      italic: 'Italic',
      heading: 'Heading',
      small: 'Small heading',
      list: 'List',
      numbers: 'Numbers',
      quote: 'Quote',
      link: 'Link',
      table: 'Table',
      row: 'Add row',
      column: 'Add column',
      lessRow: 'Remove row',
      lessColumn: 'Remove column',
      noTable: 'Remove table',
      embed: 'Video or map',
    },
    ofMost: (length, most) =>
      `${length.toLocaleString('en')} of at most ${most.toLocaleString('en')} characters`,
    insert: 'Insert',
    address: 'Address',
    noAddress: 'Give the address of a web page, an email or a telephone number.',
    noEmbed: 'Only videos and maps of the sites named below can be shown here.',
    embedHelp:
      'An address beginning with https:// at www.youtube-nocookie.com, player.vimeo.com or www.openstreetmap.org.',
  },
  fr: {
    formatting: (what) => `Mise en forme de ${what}`,
    format: {
      bold: 'Gras',
      italic: 'Italique',
      heading: 'Titre',
      small: 'Petit titre',
      list: 'Liste',
      numbers: 'Numéros',
      quote: 'Citation',
      link: 'Lien',
      table: 'Tableau',
      row: 'Ajouter une ligne',
      column: 'Ajouter une colonne',
      lessRow: 'Enlever la ligne',
      lessColumn: 'Enlever la colonne',
      noTable: 'Enlever le tableau',
      embed: 'Vidéo ou carte',
    },
    ofMost: (length, most) =>
      `${length.toLocaleString('fr-CA')} caractères sur ${most.toLocaleString('fr-CA')} au plus`,
    insert: 'Insérer',
    address: 'Adresse',
    noAddress: 'Indiquez l’adresse d’une page, un courriel ou un numéro de téléphone.',
    noEmbed: 'Seules les vidéos et les cartes des sites nommés ci-dessous peuvent être montrées ici.',
    embedHelp:
      'Une adresse commençant par https:// chez www.youtube-nocookie.com, player.vimeo.com ou www.openstreetmap.org.',
  },
};
