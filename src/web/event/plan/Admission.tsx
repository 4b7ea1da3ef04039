import { chakra } from '@chakra-ui/react';
import { Plus, Trash2 } from 'lucide-react';
import type { EventPlan } from '#contract/plan.ts';
import { type WayKind, wayKinds } from '#core/admission/admission.ts';
import { type ReplyRule, replyRules } from '#core/admission/invitation.ts';
import { sayWall } from '#core/time/say.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { OneOf, SeveralOf, Tick } from '../../kit/Choosing.tsx';
import { ChoiceField } from '../../kit/Field.tsx';
import { useAsk } from '../../parts/ask.ts';
import { MomentField } from './entries.tsx';
import { GuestLists } from './GuestLists.tsx';
import { Invited } from './Invited.tsx';
import type { SectionProps } from './section.ts';

type Way = EventPlan['admission']['ways'][number];

const wayWords: Record<WayKind, string> = {
  everyone: phrase('offers.everybody'),
  members: phrase('offers.members'),
  units: phrase('offers.membersOfUnits'),
  code: phrase('offers.withACode'),
  list: phrase('offers.onAList'),
  invited: phrase('offers.whoIsInvited'),
};

const replyWords: Record<ReplyRule, string> = {
  yes: phrase('offers.replyYes'),
  'yes or no': phrase('offers.replyNo'),
  'yes, perhaps or no': phrase('offers.replyPerhaps'),
};

const sayWindow = ({ opensLocal, closesLocal }: Way): string =>
  [
    opensLocal && phrase('offers.sayFrom', { at: sayWall(opensLocal) }),
    closesLocal && phrase('offers.sayCloses', { at: sayWall(closesLocal) }),
  ]
    .filter(Boolean)
    .join(' · ') || phrase('offers.asLongAsOpen');

/** Who may register: each way in with its own time; and the lists of those who are guests. */
export function Admission({ draft: { plan, change, wrong }, page }: SectionProps) {
  const { ways, noReply, accepts, reply } = plan.admission;
  const units = useAsk('GET /api/choices').data?.units ?? [];
  const set = (to: Partial<EventPlan['admission']>) =>
    change({ admission: { ways, noReply, accepts, reply, ...to } });
  const put = (at: number, part: Partial<Way>) =>
    set({ ways: ways.map((way, n) => (n === at ? { ...way, ...part } : way)) });
  const free = wayKinds.filter((kind) => !ways.some((way) => way.kind === kind));
  return (
    <>
      {wrong['admission.ways'] && <p className="error-line">{wrong['admission.ways']}</p>}
      <Tick checked={noReply} set={(is) => set({ noReply: is })}>
        {phrase('offers.noReply')}
      </Tick>
      {!noReply && (
        <Tick checked={accepts} set={(is) => set({ accepts: is })}>
          {phrase('offers.accepts')}
        </Tick>
      )}
      {!noReply &&
        ways.map((way, at) => {
          const error = (field: string) => wrong[`admission.ways.${at}.${field}`];
          return (
            <chakra.div key={way.kind} padding="8px 0" borderBottom="1px solid" borderColor="line">
              <chakra.div
                display="grid"
                gridTemplateColumns="minmax(0, 260px) auto"
                justifyContent="space-between"
                gap="0 12px"
                alignItems="start"
              >
                <ChoiceField
                  label={phrase('offers.who')}
                  value={way.kind}
                  set={(kind) => put(at, { kind: kind as WayKind, unitIds: [] })}
                  choices={[way.kind, ...free].map((value) => ({ value, label: wayWords[value] }))}
                />
                <Button
                  look="plain"
                  marginTop="22px"
                  aria-label={phrase('event.removeWay', { way: wayWords[way.kind] })}
                  onClick={() => set({ ways: ways.filter((_, n) => n !== at) })}
                >
                  <Trash2 size={15} aria-hidden /> {phrase('common.remove')}
                </Button>
              </chakra.div>
              <chakra.details
                open={way.opensLocal !== null || way.closesLocal !== null || undefined}
                fontSize="14px"
              >
                <chakra.summary cursor="pointer" className="soft">
                  {sayWindow(way)}
                </chakra.summary>
                <div className="pair">
                  <MomentField
                    label={phrase('offers.from')}
                    value={way.opensLocal}
                    set={(opensLocal) => put(at, { opensLocal })}
                    error={error('opensLocal')}
                  />
                  <MomentField
                    ends
                    label={phrase('offers.until')}
                    value={way.closesLocal}
                    set={(closesLocal) => put(at, { closesLocal })}
                    error={error('closesLocal')}
                  />
                </div>
              </chakra.details>
              {way.kind === 'units' && (
                <SeveralOf
                  label={phrase('offers.whichUnits')}
                  value={way.unitIds}
                  set={(unitIds) => put(at, { unitIds })}
                  error={error('unitIds')}
                  choices={units.map((u) => ({ value: u.id, label: u.name }))}
                />
              )}
              {way.kind === 'invited' && (
                <>
                  <OneOf
                    label={phrase('offers.reply')}
                    value={reply}
                    set={(to) => set({ reply: to as typeof reply })}
                    choices={replyRules.map((value) => ({ value, label: replyWords[value] }))}
                  />
                  {!page.isTemplate && <Invited page={page} />}
                </>
              )}
              {way.kind === 'code' && !plan.codes.some((c) => c.opens) && (
                <chakra.p color="ochre" fontSize="14px">
                  {phrase('offers.noOpeningCode')}
                </chakra.p>
              )}
            </chakra.div>
          );
        })}
      {!noReply && free.length > 0 && (
        <Button
          look="plain"
          alignSelf="start"
          onClick={() =>
            set({ ways: [...ways, { kind: free[0]!, unitIds: [], opensLocal: null, closesLocal: null }] })
          }
        >
          <Plus size={14} aria-hidden /> {phrase('offers.anotherWay')}
        </Button>
      )}
      {!page.isTemplate && page.may.see.includes('registration') && <GuestLists page={page} />}
    </>
  );
}
