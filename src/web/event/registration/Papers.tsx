import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import type { RegistrationRow } from '#contract/seats.ts';
import type { ShownPicture } from '#core/pictures/picture.ts';
import { type NameTagFormat, nameTagFormats } from '#core/print/nameTags.ts';
import { everySeat, type SeatFilter } from '#core/seats/narrowing.ts';
import { ApiProblem, saveFile } from '#web/api.ts';
import { Asking } from '#web/kit/Asking.tsx';
import { Button } from '#web/kit/Button.tsx';
import { OneOf, SeveralOf } from '#web/kit/Choosing.tsx';
import { Group } from '#web/kit/Field.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { PictureField } from '#web/parts/PictureField.tsx';
import { phrase } from '#web/words/phrase.ts';

type Paper = 'tags' | 'list';

const formats: Record<NameTagFormat, string> = {
  four: phrase('seats.four'),
  one: phrase('seats.one'),
  folded: phrase('seats.folded'),
  labels: phrase('seats.labels'),
  label: phrase('seats.oneLabel'),
};

/** What is printed of some seats: name tags in several formats, a list for the door. */
export function Papers({
  rows,
  page,
  filter = everySeat,
  chosen = false,
  close,
}: {
  rows: readonly RegistrationRow[];
  page: EventPage;
  /** What the table is narrowed to. */
  filter?: SeatFilter;
  /** Whether these were chosen one by one. */
  chosen?: boolean;
  close: () => void;
}) {
  const questions =
    useAsk('GET /api/events/:id/registrations', { params: { id: page.id } }).data?.questions ?? [];
  const [paper, setPaper] = useState<Paper>('tags');
  const [format, setFormat] = useState<NameTagFormat>('four');
  const [lines, setLines] = useState<readonly string[] | null>(null);
  const [picture, setPicture] = useState<ShownPicture | null>(null);
  const beside = lines ?? questions.filter((q) => q.onNameTag).map((q) => q.id);
  const confirmed = rows.filter((r) => r.state === 'confirmed').length;
  const [failed, setFailed] = useState<ApiProblem | null>(null);
  const [busy, setBusy] = useState(false);
  const params = { id: page.id };
  const body = { seatIds: chosen ? rows.map((r) => r.id) : null, only: filter };
  const save = async () => {
    setFailed(null);
    setBusy(true);
    try {
      if (paper === 'tags')
        await saveFile(
          'POST /api/events/:id/name-tags.pdf',
          { params, body: { ...body, format, pictureId: picture?.id ?? null, lines: [...beside] } },
          'name-tags.pdf',
        );
      else await saveFile('POST /api/events/:id/door-list.pdf', { params, body }, 'door-list.pdf');
    } catch (error) {
      if (error instanceof ApiProblem) setFailed(error);
      else throw error;
    } finally {
      setBusy(false);
    }
  };
  return (
    <Asking
      open
      close={close}
      title={phrase('seats.printTitle', { n: rows.length })}
      actions={
        <Button look="main" disabled={confirmed === 0 || busy} onClick={save}>
          {phrase(busy ? 'seats.making' : 'seats.savePdf')}
        </Button>
      }
    >
      <Problems of={failed} />
      {confirmed < rows.length && <p className="soft">{phrase('seats.onlyConfirmed', { n: confirmed })}</p>}
      <OneOf
        label={phrase('seats.papers')}
        value={paper}
        set={(v) => setPaper(v as Paper)}
        choices={[
          { value: 'tags', label: phrase('seats.nameTags') },
          { value: 'list', label: phrase('seats.doorList') },
        ]}
      />
      {paper === 'list' && <p className="soft">{phrase('seats.listHelp')}</p>}
      {paper === 'tags' && (
        <>
          <OneOf
            label={phrase('seats.format')}
            value={format}
            set={(v) => setFormat(v as NameTagFormat)}
            choices={nameTagFormats.map((f) => ({ value: f, label: formats[f] }))}
          />
          <SeveralOf
            label={phrase('seats.onTheTag')}
            value={beside}
            set={setLines}
            choices={[
              { value: 'offer', label: phrase('seats.theTicket') },
              { value: 'code', label: phrase('seats.theCode') },
              ...questions.filter((q) => q.kind !== 'file').map((q) => ({ value: q.id, label: q.prompt })),
            ]}
          />
          <Group label={phrase('seats.picture')}>
            <PictureField
              name={phrase('seats.nameTags')}
              picture={picture}
              set={setPicture}
              width="96px"
              ratio="4 / 3"
            />
          </Group>
        </>
      )}
    </Asking>
  );
}
