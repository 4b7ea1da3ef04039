import { phrase } from '#web/words/phrase.ts';
import { ChoiceField, TextField } from '../../kit/Field.tsx';
import { useAsk } from '../../parts/ask.ts';
import type { SectionProps } from './section.ts';

/** What the event is called, for the public and the team, and whose it is. */
export function Titles({ draft: { plan, change, wrong }, page }: SectionProps) {
  const choices = useAsk('GET /api/choices').data;
  const kinds = useAsk('GET /api/kinds').data ?? [];
  const units = choices?.units ?? [];
  const categories = kinds.filter((k) => k.sort === 'category').map((k) => k.name);
  const kindsHere = [...new Set([...categories, plan.category].filter(Boolean))];
  return (
    <>
      <TextField
        label={phrase('common.publicTitle')}
        value={plan.publicTitle}
        set={(publicTitle) => change({ publicTitle })}
        error={wrong.publicTitle}
      />
      <div className="pair">
        <TextField
          label={phrase('event.subtitle')}
          value={plan.subtitle}
          set={(subtitle) => change({ subtitle })}
          error={wrong.subtitle}
        />
        <TextField
          label={phrase('event.teamTitle')}
          value={plan.teamTitle}
          set={(teamTitle) => change({ teamTitle })}
          help={phrase('event.onlyYouSeeIt')}
        />
        {!page.isTemplate && (
          <TextField
            label={phrase('event.publicAddress')}
            value={plan.slug ?? ''}
            set={(slug) => change({ slug: slug || null })}
            error={wrong.slug}
            help={`/e/${plan.slug ?? '…'}`}
          />
        )}
        {/* An organization without units or kinds is not asked for them. */}
        {units.length > 0 && (
          <ChoiceField
            label={phrase('common.unit')}
            value={plan.unitId ?? ''}
            set={(unitId) => change({ unitId: unitId || null })}
            choices={units.map((u) => ({ value: u.id, label: u.name }))}
            empty={phrase('event.none')}
          />
        )}
        {kindsHere.length > 0 && (
          <ChoiceField
            label={phrase('event.category')}
            value={plan.category}
            set={(category) => change({ category })}
            choices={kindsHere.map((name) => ({ value: name, label: name }))}
            empty={phrase('event.none')}
          />
        )}
      </div>
      <TextField
        label={phrase('event.summary')}
        value={plan.summary}
        set={(summary) => change({ summary })}
        help={phrase('event.oneSentenceForThe')}
        error={wrong.summary}
      />
    </>
  );
}
