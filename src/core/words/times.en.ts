/** Distances in time, moments and spans, in English. */
export const timesEn = {
  today: 'today',
  tomorrow: 'tomorrow',
  yesterday: 'yesterday',
  in: 'in {{days:day|days}}',
  ago: '{{days:day|days}} ago',
  'weekday today': 'a {{weekday}}, today',
  'weekday tomorrow': 'a {{weekday}}, tomorrow',
  'weekday yesterday': 'a {{weekday}}, yesterday',
  'weekday in': 'a {{weekday}}, {{days:day|days}} from now',
  'weekday ago': 'a {{weekday}}, {{days:day|days}} ago',
  // Offsets
  days: '{{n:day|days}}',
  hours: '{{n:hour|hours}}',
  minutes: '{{n:minute|minutes}}',
  at: 'at {{moment}}',
  before: '{{span}} before {{moment}}',
  after: '{{span}} after {{moment}}',
  // Moments that messages hang on
  'registration made': 'the registration',
  start: 'the start',
  end: 'the end',
  'waiver missing': 'the start, while a waiver is missing',
  'balance due': 'the day to pay',
  'shift start': 'the shift',
  // Spans
  'from to': '{{from}} to {{until}}',
  since: 'since {{from}}',
  until: 'until {{until}}',
  // Remarks on when an event is
  passed: 'This date has passed: {{day}}.',
  'ends next day': 'ends at {{time}} the next day',
  'comes twice': '{{time}} comes twice that night because the clocks go back; the first is meant',
} as const;
