/** What thanks after an event say at first; the organization writes over it. */
export const firstThanks = {
  subject: { en: 'Thank you for {{event}}', fr: 'Merci pour {{event}}' },
  body: {
    en: 'Dear {{name}},\n\nThank you for being part of {{event}}.{% if helped %} Without you it would not have gone: {{helped}}.{% endif %}{% if gave %} And thank you for your gift of {{gave}}.{% endif %}{% if receipt_link %}\n\nYour receipt for {{receipt_amount}}: {{receipt_link}}{% endif %}\n\n{{organization}}',
    fr: 'Bonjour {{name}},\n\nMerci d’avoir pris part à {{event}}.{% if helped %} Sans vous, cela n’aurait pas marché\u00a0: {{helped}}.{% endif %}{% if gave %} Et merci pour votre don de {{gave}}.{% endif %}{% if receipt_link %}\n\nVotre reçu de {{receipt_amount}}\u00a0: {{receipt_link}}{% endif %}\n\n{{organization}}',
  },
} as const;
