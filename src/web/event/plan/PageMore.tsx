import { Plus } from 'lucide-react';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../../kit/Button.tsx';
import { Chips } from '../../kit/Chips.tsx';
import { TextField } from '../../kit/Field.tsx';
import { BothLanguages, Entries, Entry } from './entries.tsx';
import type { SectionProps } from './section.ts';

/** What people ask again and again, with the answers. */
export function Faqs({ draft: { plan, change, wrong } }: SectionProps) {
  const set = (id: string, part: object) =>
    change({ faqs: plan.faqs.map((f) => (f.id === id ? { ...f, ...part } : f)) });
  return (
    <>
      <Entries>
        {plan.faqs.map((faq, at) => (
          <Entry
            key={faq.id}
            name={faq.question.en}
            remove={() => change({ faqs: plan.faqs.filter((f) => f.id !== faq.id) })}
          >
            <BothLanguages
              label={phrase('event.question')}
              value={faq.question}
              set={(question) => set(faq.id, { question })}
              error={wrong[`faqs.${at}.question.en`]}
            />
            <BothLanguages
              long
              label={phrase('event.answer')}
              value={faq.answer}
              set={(answer) => set(faq.id, { answer })}
            />
          </Entry>
        ))}
      </Entries>
      <Button look="plain" onClick={() => change({ faqs: [...plan.faqs, newFaq()] })}>
        <Plus size={14} aria-hidden /> {phrase('event.addFaq')}
      </Button>
    </>
  );
}
export const newFaq = () => ({ id: crypto.randomUUID(), question: { en: '' }, answer: { en: '' } });

/** Buttons that lead elsewhere. */
export function Buttons({ draft: { plan, change, wrong } }: SectionProps) {
  const set = (id: string, part: object) =>
    change({ buttons: plan.buttons.map((b) => (b.id === id ? { ...b, ...part } : b)) });
  return (
    <>
      <Entries>
        {plan.buttons.map((button, at) => (
          <Entry
            key={button.id}
            name={button.label.en}
            remove={() => change({ buttons: plan.buttons.filter((b) => b.id !== button.id) })}
          >
            <BothLanguages
              label={phrase('event.buttonSays')}
              value={button.label}
              set={(label) => set(button.id, { label })}
              error={wrong[`buttons.${at}.label.en`]}
            />
            <TextField
              label={phrase('event.buttonLeadsTo')}
              inputMode="url"
              value={button.address}
              set={(address) => set(button.id, { address })}
              error={wrong[`buttons.${at}.address`]}
            />
          </Entry>
        ))}
      </Entries>
      {plan.buttons.length < 6 && (
        <Button look="plain" onClick={() => change({ buttons: [...plan.buttons, newButton()] })}>
          <Plus size={14} aria-hidden /> {phrase('event.addButton')}
        </Button>
      )}
    </>
  );
}
export const newButton = () => ({ id: crypto.randomUUID(), label: { en: '' }, address: 'https://' });

/** What is said around registering, and where people register if not here. */
export function Registering({ draft: { plan, change, wrong } }: SectionProps) {
  return (
    <>
      <BothLanguages
        long
        label={phrase('event.afterwards')}
        value={plan.afterwards}
        set={(afterwards) => change({ afterwards })}
        help={phrase('event.afterwardsHelp')}
      />
      <BothLanguages
        label={phrase('event.fullWords')}
        value={plan.fullWords}
        set={(fullWords) => change({ fullWords })}
        help={phrase('event.fullWordsHelp')}
      />
      <TextField
        label={phrase('event.registerElsewhere')}
        inputMode="url"
        value={plan.registerAt ?? ''}
        set={(address) => change({ registerAt: address || null })}
        error={wrong.registerAt}
        help={phrase('event.registerElsewhereHelp')}
      />
      <Chips
        label={phrase('event.goal')}
        help={phrase('event.goalHelp')}
        value={plan.goal.map(String)}
        set={(typed) => change({ goal: typed.map(Number).filter((n) => Number.isInteger(n) && n > 0) })}
        error={wrong.goal}
      />
    </>
  );
}

/** What search engines are told, where that differs from the page. */
export function SearchWords({ draft: { plan, change, wrong } }: SectionProps) {
  return (
    <>
      <TextField
        label={phrase('event.searchTitle')}
        value={plan.searchTitle}
        set={(searchTitle) => change({ searchTitle })}
        error={wrong.searchTitle}
        help={phrase('event.searchTitleHelp', { title: plan.publicTitle })}
      />
      <TextField
        label={phrase('event.searchText')}
        value={plan.searchText}
        set={(searchText) => change({ searchText })}
        error={wrong.searchText}
        help={phrase('event.searchTextHelp')}
      />
    </>
  );
}
