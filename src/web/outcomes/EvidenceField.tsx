import { FileUpload } from '@chakra-ui/react';
import { useState } from 'react';
import { ApiProblem } from '#web/api.ts';
import { base64Of } from '#web/base64.ts';
import { Button } from '#web/kit/Button.tsx';
import { Group } from '#web/kit/Field.tsx';

/** A picture that shows what was counted: kept as soon as it is chosen, named when the tally is sent. */
export function EvidenceField({
  label,
  value,
  set,
  keep,
  words,
}: {
  label: string;
  value: string | null;
  set: (id: string | null) => void;
  keep: (content: string) => Promise<{ id: string }>;
  words: { choose: string; kept: string; remove: string; failed: string };
}) {
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  const bring = async (file: File) => {
    setBusy(true);
    setWrong(null);
    try {
      set((await keep(await base64Of(file))).id);
    } catch (error) {
      setWrong(error instanceof ApiProblem ? error.message : words.failed);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Group label={label} error={wrong ?? undefined}>
      {value ? (
        <span className="acts">
          <span role="status">{words.kept}</span>
          <Button look="link" onClick={() => set(null)}>
            {words.remove}
          </Button>
        </span>
      ) : (
        <FileUpload.Root
          accept="image/*"
          maxFiles={1}
          width="auto"
          onFileAccept={({ files: [file] }) => {
            if (file) void bring(file);
          }}
        >
          <FileUpload.HiddenInput aria-label={label} />
          <FileUpload.Trigger asChild>
            <Button disabled={busy}>{words.choose}</Button>
          </FileUpload.Trigger>
        </FileUpload.Root>
      )}
    </Group>
  );
}
