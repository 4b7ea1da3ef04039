/** Where a goal stands and where it is heading, in one sentence each. Bounds are those of 95 in 100. */
export const trendsEn = {
  'to come': 'It counts from {{from}} on.',
  reached: '{{value}}: reached on {{on}}, {{days:day|days}} before its day.',
  'reached late': '{{value}}: reached by its day.',
  'reached now': '{{value}} now: as it should be by {{by}}.',
  missed: '{{value}} of {{target}}: not reached by {{by}}.',
  'missed over': '{{value}}: over the {{target}} that it was to stay below.',
  'no figures': 'Nothing was counted for it yet.',
  'no pace': '{{value}} of {{target}} so far. How it goes on can be said once there is more.',
  'no pace latest': '{{value}} now, {{target}} wanted. How it goes on can be said once there is more.',
  distinct: '{{value}} of {{target}} so far. How many more there are to be found cannot be told from it.',
  likely:
    '{{value}} so far. As things go it comes to {{ahead}} by {{by}} (between {{low}} and {{high}}): {{target}} is likely.',
  open: '{{value}} so far. As things go it comes to {{ahead}} by {{by}} (between {{low}} and {{high}}): {{target}} can go either way. It takes {{needed}} a month; {{now}} come in.',
  unlikely:
    '{{value}} so far. As things go it comes to {{ahead}} by {{by}} (between {{low}} and {{high}}): {{target}} is unlikely. It takes {{needed}} a month; {{now}} come in.',
  'likely latest':
    '{{value}} now. As it has gone it comes to {{ahead}} by {{by}} (between {{low}} and {{high}}): {{target}} is likely.',
  'open latest':
    '{{value}} now. As it has gone it comes to {{ahead}} by {{by}} (between {{low}} and {{high}}): {{target}} can go either way.',
  'unlikely latest':
    '{{value}} now. As it has gone it comes to {{ahead}} by {{by}} (between {{low}} and {{high}}): {{target}} is unlikely.',
} as const;
