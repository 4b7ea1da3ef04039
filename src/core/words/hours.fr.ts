import type { hoursEn } from './hours.en.ts';

/** The letter that says what somebody served, in French. */
export const hoursFr: Record<keyof typeof hoursEn, string> = {
  title: 'Heures de bénévolat',
  says: '{{name}} a donné {{hours:heure|heures}} comme bénévole à {{organization}}, du {{from}} au {{until}}.',
  none: 'Rien n’est consigné pour {{name}}, du {{from}} au {{until}}.',
  day: 'Jour',
  event: 'Événement',
  role: 'Rôle',
  hours: 'Heures',
  sum: 'En tout',
  counted: 'Ces heures sont celles que {{organization}} a consignées au {{today}}.',
  signed: 'Pour {{organization}}',
};
