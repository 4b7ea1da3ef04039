import './holdingWords.ts';
import { FileUpload } from '@chakra-ui/react';
import { useMutation } from '@tanstack/react-query';
import { useTranslation } from 'react-i18next';
import { sayLongDate } from '#core/time/say.ts';
import { call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { language } from './language.ts';
import { Head, Say, Soft } from './parts.tsx';

/** The fingerprint of a file, made here: the file itself goes nowhere. */
async function fingerprint(file: File): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', await file.arrayBuffer());
  return [...new Uint8Array(digest)].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** Says whether the PDF of something signed is a copy that was made here. */
export function VerifySigned() {
  const { t } = useTranslation();
  const check = useMutation({
    mutationFn: async (file: File) =>
      call('POST /api/public/signatures/check', { body: { sha256: await fingerprint(file) } }),
  });
  const found = check.data?.found;
  return (
    <>
      <Head>{t('verifyFile')}</Head>
      <Soft marginBottom="8px">{t('verifyFileText')}</Soft>
      <FileUpload.Root
        accept="application/pdf"
        maxFiles={1}
        onFileAccept={({ files: [file] }) => {
          if (file) check.mutate(file);
        }}
      >
        <FileUpload.HiddenInput aria-label={t('verifyFileDo')} />
        <FileUpload.Trigger asChild>
          <Button disabled={check.isPending}>{t('verifyFileDo')}</Button>
        </FileUpload.Trigger>
      </FileUpload.Root>
      {check.isSuccess && (
        <Say tone={found ? 'good' : 'stop'} role="status">
          {found ? (
            <>
              <p>
                {t('verifyFileGood', {
                  organization: found.organization,
                  title: found.title,
                  version: found.version,
                  date: sayLongDate(found.at.slice(0, 10), language()),
                })}
              </p>
              {t('verifyFileValid', { count: found.valid })}
            </>
          ) : (
            t('verifyFileNot')
          )}
        </Say>
      )}
    </>
  );
}
