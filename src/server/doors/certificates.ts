import { fullName } from '#core/contacts/names.ts';
import { isOver } from '#core/events/end.ts';
import { titleFor } from '#core/events/french.ts';
import { sayLongDate } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import type { Language } from '#core/words/language.ts';
import type { Work } from '../app/app.ts';
import { keyedHash } from '../db/ids.ts';
import { sayPlace, sayWhen } from '../events/saying.ts';
import type { EventRow } from '../events/store.ts';
import { refused } from '../http/problem.ts';
import { certificatesPdf } from '../print/certificate.ts';
import { theOrganization } from '../staff/store.ts';
import { attendanceOf } from './attending.ts';

/**
 * Certificates of everybody who earned one at an event, each in their language, or of one of them. Each has a number that only this server can
 * make, so that the same person always gets the same.
 */
export async function certificatesOf(
  { tx, app, now }: Pick<Work, 'tx' | 'app' | 'now'>,
  event: EventRow,
  registrationId: string | null = null,
): Promise<Buffer> {
  if (!event.doors.certificate) throw refused('no-certificates');
  if (!isOver(event, now)) throw refused('nobody-earned');
  const { rows } = await attendanceOf(tx, event, now, registrationId);
  const earned = rows.filter((r) => r.earned && fullName(r));
  if (!earned.length) throw refused(registrationId ? 'certificate-not-earned' : 'nobody-earned');
  const { name: organization } = await theOrganization(tx);
  const about = (language: Language) => ({
    title: titleFor(event, language),
    when: sayWhen(event, language),
    place: sayPlace(event, language),
    date: sayLongDate(wallOf(now, event.zone), language),
    language,
  });
  return certificatesPdf(
    organization,
    earned.map((r) => ({
      ...about(r.language),
      ...r.counted,
      name: fullName(r),
      number: keyedHash(app.secret, `certificate:${r.registrationId}`).slice(0, 10).toUpperCase(),
    })),
  );
}
