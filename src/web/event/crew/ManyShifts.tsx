import { chakra } from '@chakra-ui/react';
import { crewContract } from '#contract/crew.ts';
import type { EventPage } from '#contract/events.ts';
import { readShifts } from '#core/crew/listed.ts';
import { sayFromTo } from '#core/time/fromTo.ts';
import { sayShortDate } from '#core/time/say.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { LongText, Tick } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';
import { lineWords } from './crewWords.ts';

/** Adds many shifts from a list that is typed, or pasted from a table: what each line is read as is seen before it is added. */
export function ManyShifts({ page, close }: { page: EventPage; close: () => void }) {
  const first = page.plan.startsLocal!.slice(0, 10);
  const roles = useAsk('GET /api/roles').data?.roles ?? [];
  const usual = new Map(roles.map((r) => [r.name.toLowerCase(), r.places[0] ?? '']));
  const form = useForm({
    values: { list: '', publicSignUp: true },
    request: (v) =>
      prepare(crewContract, 'POST /api/events/:id/shifts/several', {
        params: { id: page.id },
        body: {
          shifts: readShifts(v.list, first, usual).flatMap(({ shift }) =>
            shift ? [{ ...shift, publicSignUp: v.publicSignUp }] : [],
          ),
        },
      }),
    fieldOf: () => 'list',
    after: ({ ids }) => {
      say(phrase('crew.addedMany', { n: ids.length }));
      close();
    },
  });
  const lines = form.values.list.trim() ? readShifts(form.values.list, first, usual) : [];
  const good = lines.flatMap((l) => (l.shift ? [l.shift] : []));
  const wrong = lines.filter((l) => l.problem);
  return (
    <FormDialog
      form={form}
      close={close}
      wide
      title={phrase('crew.manyShifts')}
      submit={phrase('crew.addMany', { n: good.length })}
      disabled={good.length === 0 || wrong.length > 0}
    >
      <LongText
        form={form}
        name="list"
        label={phrase('crew.oneALine')}
        rows={7}
        help={phrase('crew.listHelp')}
        required
      />
      {wrong.length > 0 && (
        <chakra.ul role="alert" color="madder" fontSize="medium" margin="4px 0 8px" paddingLeft="16px">
          {wrong.slice(0, 8).map((l) => (
            <li key={l.line}>{phrase('crew.lineIs', { line: l.line, problem: lineWords[l.problem!] })}</li>
          ))}
        </chakra.ul>
      )}
      {good.length > 0 && (
        <chakra.div className="table still" maxHeight="240px" overflowY="auto" marginBottom="8px">
          <table>
            <tbody>
              {good.map((s, at) => (
                <tr key={`${at} ${s.role}`}>
                  <td className="num">
                    {sayShortDate(s.startsLocal)} {sayFromTo(s)}
                  </td>
                  <td>
                    <span className="name">{s.role}</span>{' '}
                    <span className="soft">{[s.place, s.name].filter(Boolean).join(', ')}</span>
                  </td>
                  <td className="n num">
                    {s.least < s.wished
                      ? phrase('crew.fromTo', { least: s.least, wished: s.wished })
                      : s.wished}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </chakra.div>
      )}
      <Tick form={form} name="publicSignUp" label={phrase('event.anybodyMaySignUp')} />
    </FormDialog>
  );
}
