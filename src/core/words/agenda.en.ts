/** What is remarked on about an agenda, in English. */
export const agendaEn = {
  outside: '“{{title}}” is outside the times of the event.',
  'speaker-twice': '{{speaker}} speaks in “{{title}}” and “{{other}}” at the same time.',
  'room-twice': '{{room}} has “{{title}}” and “{{other}}” at the same time.',
  'more-than-room': '“{{title}}” has {{seats}} seats; {{room}} holds {{holds}}.',
} as const;
