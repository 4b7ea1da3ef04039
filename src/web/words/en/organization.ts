export const organization = {
  title: 'Organization',
  zoneHelp: 'The zone events take place in, for example America/Halifax.',
  country: 'Country',
  countryHelp: 'Telephone numbers without a country code are read as from here.',
  currency: 'Currency',
  currencyFixed: 'Prices and money are in it already. An event can be paid in another, in its plan.',
  sender: 'Email address messages come from',
  senderHelp: 'People answer to it.',
  quietHours: 'Quiet hours',
  quietHoursOn: 'Nothing that can wait is sent at night',
  quietFrom: 'From',
  quietUntil: 'Until',
  quietHelp:
    'What falls into these hours goes out when they end. Answers to what somebody just did, and what you send by hand, go at once.',
  changed: 'Saved. Pages and messages say it so from now on.',
} as const;
