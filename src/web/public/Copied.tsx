import './calendarWords.ts';
import { Clipboard, chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '#web/kit/Button.tsx';

/** A text to copy, with what else can be done with it. */
export function Copied({
  label,
  copy,
  text,
  children,
}: {
  label: string;
  copy: string;
  text: string;
  children?: ReactNode;
}) {
  const { t } = useTranslation();
  return (
    <Clipboard.Root value={text}>
      <Clipboard.Label srOnly>{label}</Clipboard.Label>
      <chakra.div display="flex" gap="10px" flexWrap="wrap" alignItems="center" marginTop="8px">
        <Clipboard.Input asChild>
          <chakra.input
            readOnly
            aria-label={label}
            flex="1 1 260px"
            minWidth={0}
            padding="9px 10px"
            border="1px solid"
            borderColor="rule"
            borderRadius="corner"
            background="sheet"
            color="ink"
            fontSize="small"
          />
        </Clipboard.Input>
        <Clipboard.Trigger asChild>
          <Button>
            <Clipboard.Indicator copied={t('copied')}>{copy}</Clipboard.Indicator>
          </Button>
        </Clipboard.Trigger>
        {children}
      </chakra.div>
    </Clipboard.Root>
  );
}
