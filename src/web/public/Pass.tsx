import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { Small } from './parts.tsx';

/** A pass: the code to scan, whose it is, and the code in letters. */
export function Pass({
  pass,
  name,
  about,
  children,
}: {
  pass: { code: string; svg: string };
  name: ReactNode;
  about: string;
  children?: ReactNode;
}) {
  const { t } = useTranslation();
  return (
    <chakra.div
      display="grid"
      gridTemplateColumns="132px minmax(0, 1fr)"
      gap="16px"
      alignItems="center"
      padding="12px 0"
    >
      {/* The picture is drawn by our own server from the pass code. */}
      <chakra.img
        background="white"
        padding="4px"
        alt={`${t('pass')} ${pass.code}`}
        src={`data:image/svg+xml,${encodeURIComponent(pass.svg)}`}
        width={132}
        height={132}
      />
      <div>
        <chakra.div fontFamily="title" fontWeight={500} fontSize="18px">
          {name}
        </chakra.div>
        <Small>{about}</Small>
        <Small textStyle="figures" letterSpacing="0.06em">
          {pass.code}
        </Small>
        {children}
      </div>
    </chakra.div>
  );
}
