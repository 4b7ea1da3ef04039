import type { MessageReach } from '#core/access/messages.ts';
import type { Queries } from '../db/database.ts';
import { openIncomingSql, type Unanswered } from './incoming.ts';
import { reachParams } from './tray.ts';

/** Questions and replies nobody has answered yet that somebody reaches. */
export const readUnanswered = (tx: Queries, reach: MessageReach): Promise<Unanswered[]> =>
  tx.query(
    `select * from (
       select q.event_id, e.public_title as title, count(*)::int as n, min(q.asked_at) as since, min(s.name) as by
       from board_questions q join events e on e.id = q.event_id left join event_boards b on b.event_id = q.event_id
         left join staff s on s.id = b.answers_by
       where q.answered_at is null and q.state <> 'hidden' and ($1::boolean or ($2::uuid is not null and e.unit_id = $2))
       group by q.event_id, e.public_title
       union all ${openIncomingSql(1)}) x where x.n > 0 order by x.since, x.event_id`,
    reachParams(reach),
  );
