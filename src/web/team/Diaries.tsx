import { chakra, FileUpload } from '@chakra-ui/react';
import { useState } from 'react';
import { type Place, placesContract } from '#contract/places.ts';
import { sayProblem } from '#core/words/problems.ts';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
import { Button } from '../kit/Button.tsx';
import { Form } from '../kit/form/Form.tsx';
import { Choose, Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Empty } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

/** The diaries that others keep of a place: what is taken there is warned about while planning. */
export function Diaries({ place, close }: { place: Place; close: () => void }) {
  const diaries = useAsk('GET /api/venues/:id/diaries', { params: { id: place.id } });
  const remove = useAction('DELETE /api/diaries/:id');
  const { at } = useSaying();
  const roomOf = (id: string | null) => place.rooms.find((r) => r.id === id)?.name;
  return (
    <Asking open wide close={close} title={phrase('team.diariesOf', { name: place.name })} actions={null}>
      <p className="soft">{phrase('team.whatDiariesAre')}</p>
      <Problems of={remove.problem} />
      <Loaded of={diaries}>
        {(all) => (
          <>
            {all.length === 0 && <Empty>{phrase('team.noDiaries')}</Empty>}
            <ul className="lines">
              {all.map((d) => (
                <li key={d.id}>
                  <div className="spread">
                    <span>
                      <span className="name">{d.name}</span>{' '}
                      <span className="soft">
                        {[
                          roomOf(d.roomId),
                          phrase('team.diaryEntries', { entries: d.entries }),
                          d.readAt && phrase('team.readAt', { at: at(d.readAt) }),
                          d.unread > 0 && phrase('team.diaryUnread', { unread: d.unread }),
                          d.unknownZones.length > 0 &&
                            phrase('team.unknownZones', { zones: d.unknownZones.join(', ') }),
                        ]
                          .filter(Boolean)
                          .join(', ')}
                      </span>
                    </span>
                    <Button
                      look="link"
                      color="soft"
                      aria-label={phrase('team.removeNamed', { name: d.name })}
                      disabled={remove.isPending}
                      onClick={() =>
                        remove.mutate(
                          { params: { id: d.id } },
                          { onSuccess: () => say(phrase('team.diaryGone', { name: d.name })) },
                        )
                      }
                    >
                      {phrase('common.remove')}
                    </Button>
                  </div>
                  {d.problem && (
                    <chakra.p className="late" margin="0">
                      {sayProblem(d.problem as 'diary-unread')} {phrase('team.diaryOld')}
                    </chakra.p>
                  )}
                </li>
              ))}
            </ul>
          </>
        )}
      </Loaded>
      <Add place={place} />
    </Asking>
  );
}

function Add({ place }: { place: Place }) {
  const [file, setFile] = useState<{ name: string; content: string } | null>(null);
  const form = useForm({
    values: { name: '', roomId: '', address: '' },
    request: (v) =>
      prepare(placesContract, 'POST /api/venues/:id/diaries', {
        params: { id: place.id },
        body: {
          name: v.name,
          roomId: v.roomId || null,
          address: file ? null : v.address || null,
          content: file?.content ?? null,
        },
      }),
    fieldOf: (path) => (path === 'content' ? 'address' : path),
    after: ({ entries }) => {
      setFile(null);
      say(phrase('team.diaryAdded', { entries }));
    },
    again: true,
  });
  return (
    <chakra.section marginTop="14px">
      <Form form={form} submit={phrase('team.addDiary')} look="normal">
        <div className="pair">
          <Text form={form} name="name" label={phrase('team.diaryName')} required />
          {place.rooms.length > 0 && (
            <Choose
              form={form}
              name="roomId"
              label={phrase('event.room')}
              choices={place.rooms.map((r) => ({ value: r.id, label: r.name }))}
              empty={phrase('event.wholePlace')}
            />
          )}
        </div>
        {file ? (
          <p>
            {file.name}{' '}
            <Button look="link" color="soft" onClick={() => setFile(null)}>
              {phrase('common.remove')}
            </Button>
          </p>
        ) : (
          <>
            <Text
              form={form}
              name="address"
              label={phrase('team.diaryAddress')}
              inputMode="url"
              help={phrase('team.diaryAddressHelp')}
            />
            <FileUpload.Root
              accept=".ics"
              maxFiles={1}
              width="auto"
              onFileAccept={({ files: [chosen] }) => {
                if (chosen) void chosen.text().then((content) => setFile({ name: chosen.name, content }));
              }}
            >
              <FileUpload.HiddenInput aria-label={phrase('team.diaryFile')} />
              <FileUpload.Trigger asChild>
                <Button look="plain">{phrase('team.diaryFile')}</Button>
              </FileUpload.Trigger>
            </FileUpload.Root>
          </>
        )}
      </Form>
    </chakra.section>
  );
}
