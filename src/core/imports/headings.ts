import { attributes, textKeys } from '#core/contacts/attributes.ts';
import type { ReachKind } from '#core/contacts/reach.ts';
import type { ColumnMeaning, DateOrder } from './mapping.ts';

/** What a heading says of its column, before anybody looked at the contents. */
export interface Heading {
  meaning: ColumnMeaning | null;
  /** True where the column is said to hold somebody else's details: they never become the person's own. */
  ofOthers: boolean;
  /**
   * True where it says whose list it is: "Child's first name", "Guest". A plain "First name" or "Name" beside it counts
   * before it.
   */
  whose: boolean;
  /** Which guardian, where it tells them apart: "mother", "father", "1", "2"; empty otherwise. */
  guardian: string;
  /** What emails or telephones below are for. */
  reach: ReachKind;
  /** How the heading says that dates are written. */
  order: DateOrder | null;
}

const guardian = /parent|guardian|mother|father|\bmum\b|\bmom\b|\bdad\b|tuteur|tutrice|mère|père/iu;
const ofOthers = /spouse|partner|\bkin\b|conjoint|referr|host|sponsor|coach|teacher|doctor|médecin/iu;
const emergency = /emergenc|\bice\b|next of kin|in case of|urgence/iu;
const aPhone = /phone|mobile|\btel|number|cell|contact no|téléphone|portable/iu;
const anEmail = /e-?mail|courriel/iu;
// What somebody took part in, holds or knows has a level and an end too.
const ofSomethingElse = /certif|licen[cs]e|first aid|training|skill|water|check|permit|card exp|warrant/iu;
// Whose list it is, said before the name of every column: "Child's first name", "Participant email".
const whose =
  /^(?:the\s+)?(?:child|camper|participant|attendee|registrant|guest|member|volunteer|donor|supporter|subscriber|contact|person|player|student|crew|applicant|enfant|participante?)(?:['’]?s)?\s+(?=\S)/iu;

const words: [RegExp, ColumnMeaning][] = [
  [/^contact id$/iu, 'contact id'],
  [/^kind( of contact)?$/iu, 'kind'],
  [/(?:un-?subscri|opt(?:ed)?[ -]?out|no (?:e-?mail|newsletter|mailing)s?|désabonn)/iu, 'newsletter refused'],
  [
    /e-?mail.*(phone|tel)|phone.*e-?mail|^contact( details| info| information)?$|^reach|^coordonnées$/iu,
    'email or phone',
  ],
  [
    /(e-?mail|newsletter|mailing|marketing).*(opt|subscri|consent|ok\b|permission)|^subscri(?!ber\b)|newsletter$|infolettre|^opt.?in$|^opted.?in$|^abonn|^(marketing )?consent$|^mailing list$/iu,
    'newsletter',
  ],
  [/do not (contact|mail|email|call)|^dnc$|no contact/iu, 'do not contact'],
  [/(mailing|postal|civic|home|street|work)\s+address|^address for/iu, 'street'],
  [/e-?mail|courriel|^mail$/iu, 'email'],
  [/mobile|phone|^tel|\btel\b|^cell|\bcell\b|téléphone|portable|^landline|^handy$/iu, 'phone'],
  // Both parts of a name in one column.
  [
    /(last|sur|family|nom)\s*(name)?\s*[,/&]\s*(first|given|prénom)|(first|given)\s*(name)?\s*(and|&|\+|,)\s*(last|sur|family)/iu,
    'whole name',
  ],
  [/^(first|given|fore|christian)[ -]?(names?)?$|^prénoms?$|^vorname$|^nombre$/iu, 'given name'],
  [/^(last|family|sur|2nd)[ -]?(names?)?$|nom de famille|^nachname$|^apellidos?$/iu, 'family name'],
  [/member(ship)?\s*(no|number|#|id)|^no\.?$|^card (no|number)|^numéro de membre$/iu, 'member number'],
  [
    /member(ship)? (until|to|ends?|expir|valid|end date)|paid (until|to|up to)|^expir|valid (until|to)|renew(al)? (due|date)|^renewal$/iu,
    'member until',
  ],
  [/^died|^deceased|date of death|décéd/iu, 'died on'],
  [
    /^organi[sz]ation( name)?$|^company( name)?$|^employer$|^works? (for|at)$|^business( name)?$|^employeur$|^organisme$/iu,
    'organization',
  ],
  [/^(?:member )?(?:since|joined|join date|date joined)|membre depuis/iu, 'member since'],
  [
    /^(?:member(ship)? )?(?:level|tier|type|class|category)$|category of member|^membership$|^niveau$/iu,
    'member level',
  ],
  [
    /^(?:(?:full|whole|display|your|household|family and given)\s+)?names?(?: in full)?$|^(?:guest|volunteer|member|attendee|participant|registrant|child|camper|donor|person|household|supporter|subscriber)s?$|^nom( complet)?$|^noms?$|^who$|^(?:child|camper|participant|attendee|registrant|guest|member|volunteer|donor|supporter|subscriber|contact|player|student|crew|applicant)(?:['’]?s)? (?:full )?names?$/iu,
    'whole name',
  ],
  [
    /^street|^address( line)?( ?\d)?$|^adresse( \d)?$|^(apt|apartment|unit|suite)( no| number|\.)?$|^rue$/iu,
    'street',
  ],
  [/postal|zip|post ?code|code postal|^plz$/iu, 'postal code'],
  [
    /^(town|city|ville|place|municipality|province|prov\.?|state|region)(?: ?\/ ?(?:town|city|state))?$/iu,
    'town',
  ],
  [/birth|born|\bdob\b|naissance|^bday$|^geburtsdatum$/iu, 'birth date'],
  [/^(preferred )?lang(uage)?$|^langue( préférée)?$/iu, 'language'],
  ...textKeys.map((key): [RegExp, ColumnMeaning] => [attributes[key].text.headings, key]),
  [/^skills?$|^tags?$|^interests?$|^categories$|^groups?$|^labels?$|compétences/iu, 'tags'],
  [/^notes?$|^comments?$|^remarks?$|^remarques?$|^commentaires?$/iu, 'note'],
];

/** The kind of an email or telephone by the words beside it, empty where they say none. */
export function reachKindIn(text: string): ReachKind {
  if (/mobile|\bcell|\bmob\b|portable/iu.test(text)) return 'mobile';
  if (/\bwork\b|office|\bbus(iness)?\b|\bjob\b|travail|bureau/iu.test(text)) return 'work';
  if (/\bhome\b|landline|\bhouse\b|maison|domicile/iu.test(text)) return 'home';
  return '';
}

/** How a heading says that its dates are written: "Birth date (mm/dd/yyyy)". Null where it does not. */
function orderIn(text: string): DateOrder | null {
  if (/\b(?:d{1,2}|j{1,2})\s*[/.-]\s*m{1,3}\s*[/.-]/iu.test(text)) return 'day first';
  if (/\bm{1,3}\s*[/.-]\s*d{1,2}\s*[/.-]/iu.test(text)) return 'month first';
  return null;
}

const whichGuardian = (text: string): string =>
  /mother|\bmum\b|\bmom\b|mère/iu.test(text)
    ? 'mother'
    : /father|\bdad\b|père/iu.test(text)
      ? 'father'
      : (/\b(?:parent|guardian|tuteur)s?\s*#?\s*(\d)\b|\b(\d)(?:st|nd|rd)\b|\b(?:second|other)\b/iu
          .exec(text)
          ?.slice(1)
          .join('') ?? '');

const meaningOf = (text: string): ColumnMeaning | null => {
  const meaning = words.find(([of]) => of.test(text))?.[1] ?? null;
  const membership = meaning === 'member until' || meaning === 'member since' || meaning === 'member level';
  return membership && ofSomethingElse.test(text) ? null : meaning;
};

/** Reads a heading. */
export function readHeading(heading: string): Heading {
  const text = heading.replace(/\s+/gu, ' ').trim();
  const order = orderIn(text);
  const say = (meaning: ColumnMeaning | null, others = false, said = false): Heading => ({
    meaning,
    ofOthers: others,
    whose: said,
    guardian: others ? whichGuardian(text) : '',
    reach: reachKindIn(text),
    order,
  });
  if (emergency.test(text)) return say(aPhone.test(text) ? 'emergency phone' : 'emergency name', true);
  if (guardian.test(text))
    return say(
      anEmail.test(text)
        ? 'guardian email'
        : aPhone.test(text)
          ? 'guardian phone'
          : /name|^(?:parent|guardian|mother|father|mum|mom|dad|tuteur|tutrice|mère|père)s?\b[\s(/)\w]*$/iu.test(
                text,
              )
            ? 'guardian name'
            : null,
      true,
    );
  if (ofOthers.test(text)) return say(null, true);
  const plain = text.replace(/\s*[([].*$/u, '').replace(/[\s:*?]+$/u, '');
  const meaning = meaningOf(plain) ?? meaningOf(text);
  // "Guest" may be a name or a yes; a "Name" beside it is the name.
  if (meaning) return say(meaning, false, meaning === 'whole name' && !/name|nom/iu.test(plain));
  const rest = meaningOf(plain.replace(whose, ''));
  // Since when somebody volunteers says nothing of a membership.
  return say(rest?.startsWith('member') ? null : rest, false, true);
}
