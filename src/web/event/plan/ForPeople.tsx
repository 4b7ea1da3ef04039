import { FileUpload } from '@chakra-ui/react';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { EventPlan } from '#contract/plan.ts';
import { fileEndings } from '#core/files/kinds.ts';
import { addressOf } from '#web/api.ts';
import { base64Of } from '#web/base64.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { ChoiceField, TextField } from '../../kit/Field.tsx';
import { Problems } from '../../kit/notices.tsx';
import { useAction, useAsk } from '../../parts/ask.ts';
import { BothLanguages, Entries, Entry } from './entries.tsx';
import type { SectionProps } from './section.ts';

type Organizer = NonNullable<EventPlan['organizer']>;
export const newOrganizer = (): Organizer => ({ how: 'form', name: '', email: '', phone: '' });

/** Who people turn to, and how. */
export function OrganizerSection({ draft: { plan, change, wrong } }: SectionProps) {
  const organizer = plan.organizer ?? newOrganizer();
  const set = (part: Partial<Organizer>) => change({ organizer: { ...organizer, ...part } });
  return (
    <div className="pair">
      <TextField label={phrase('common.name')} value={organizer.name} set={(name) => set({ name })} />
      <ChoiceField
        label={phrase('event.organizerHow')}
        value={organizer.how}
        set={(how) => set({ how: how as Organizer['how'] })}
        choices={[
          { value: 'form', label: phrase('event.organizerForm') },
          { value: 'shown', label: phrase('event.organizerShown') },
        ]}
      />
      <TextField
        label={phrase('common.email')}
        type="email"
        value={organizer.email}
        set={(email) => set({ email })}
        error={wrong['organizer.email']}
        help={organizer.how === 'form' ? phrase('event.organizerNeedsEmail') : ''}
      />
      {organizer.how === 'shown' && (
        <TextField
          label={phrase('common.telephone')}
          type="tel"
          value={organizer.phone}
          set={(phone) => set({ phone })}
        />
      )}
    </div>
  );
}

/** What only seat-holders are given: links, and files that are kept here. */
export function DayFiles({ draft: { plan, change, wrong }, page }: SectionProps) {
  const { dayFiles } = plan;
  const kept = useAsk('GET /api/events/:id/files', { params: { id: page.id } }).data ?? [];
  const [unread, setUnread] = useState('');
  const keep = useAction('POST /api/files', ({ id, name }) =>
    change({
      dayFiles: [
        ...dayFiles,
        { id: crypto.randomUUID(), label: { en: name.replace(/\.\w+$/u, '') }, address: null, fileId: id },
      ],
    }),
  );
  const set = (id: string, part: Partial<(typeof dayFiles)[number]>) =>
    change({ dayFiles: dayFiles.map((f) => (f.id === id ? { ...f, ...part } : f)) });
  return (
    <>
      <p className="soft">{phrase('event.dayFilesHelp')}</p>
      <Problems of={keep.problem} />
      {unread && <p className="error-line">{unread}</p>}
      <Entries>
        {dayFiles.map((file, at) => (
          <Entry
            key={file.id}
            name={file.label.en}
            remove={() => change({ dayFiles: dayFiles.filter((f) => f.id !== file.id) })}
          >
            <BothLanguages
              label={phrase('event.fileLabel')}
              value={file.label}
              set={(label) => set(file.id, { label })}
              error={wrong[`dayFiles.${at}.label.en`]}
            />
            {file.fileId ? (
              <a href={addressOf('GET /api/events/:id/files/:file', { id: page.id, file: file.fileId })}>
                {kept.find((k) => k.id === file.fileId)?.name ?? file.label.en}
              </a>
            ) : (
              <TextField
                label={phrase('event.fileAddress')}
                inputMode="url"
                value={file.address ?? ''}
                set={(address) => set(file.id, { address })}
                error={wrong[`dayFiles.${at}.address`]}
              />
            )}
          </Entry>
        ))}
      </Entries>
      <div className="acts">
        <Button
          look="plain"
          onClick={() =>
            change({
              dayFiles: [
                ...dayFiles,
                { id: crypto.randomUUID(), label: { en: '' }, address: 'https://', fileId: null },
              ],
            })
          }
        >
          <Plus size={14} aria-hidden /> {phrase('event.addLink')}
        </Button>
        <FileUpload.Root
          accept={fileEndings.map((e) => `.${e}`)}
          maxFiles={1}
          width="auto"
          onFileAccept={({ files: [file] }) => {
            if (!file) return;
            setUnread('');
            base64Of(file).then(
              (content) => keep.mutate({ body: { name: file.name, content } }),
              () => setUnread(file.name),
            );
          }}
        >
          <FileUpload.HiddenInput aria-label={phrase('event.addFile')} />
          <FileUpload.Trigger asChild>
            <Button look="plain" disabled={keep.isPending}>
              <Plus size={14} aria-hidden /> {phrase('event.addFile')}
            </Button>
          </FileUpload.Trigger>
        </FileUpload.Root>
      </div>
    </>
  );
}
