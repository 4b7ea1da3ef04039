import { chakra } from '@chakra-ui/react';
import { useTranslation } from 'react-i18next';
import type { PublicEvent } from '#contract/publicEvent.ts';
import { sketchShape } from '#core/places/sketch.ts';
import { language } from './language.ts';

type Drawn = NonNullable<NonNullable<PublicEvent['place']>['sketch']>;
const width = 400;
const height = width * sketchShape;

/** A sketch of what lies around a place, north above, with a rod to measure by. */
export function Sketch({ of: { reach, features }, name }: { of: Drawn; name: string }) {
  const { t } = useTranslation();
  // As wide as the reach on both sides: what lies further north or south is cut off.
  const scale = width / (2 * reach);
  const across = (east: number) => Math.round(width / 2 + east * scale);
  const down = (north: number) => Math.round(height / 2 - north * scale);
  const path = (line: Drawn['features'][number]['line']) =>
    line.map(({ east, north }, at) => `${at ? 'L' : 'M'}${across(east)} ${down(north)}`).join(' ');
  const surface = ({ line }: Drawn['features'][number]) => {
    const [first, last] = [line[0]!, line.at(-1)!];
    return line.length > 2 && first.east === last.east && first.north === last.north;
  };
  const rod = 200;
  const measured = new Intl.NumberFormat(language(), { style: 'unit', unit: 'meter' }).format(rod);
  return (
    <chakra.svg
      display="block"
      width="100%"
      height="auto"
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={t('sketchOf', { name })}
      fontSize="14px"
    >
      <rect width={width} height={height} fill="#EAEDE2" />
      {features
        .filter((f) => f.kind === 'water')
        .map((f) => (
          <path
            key={f.name}
            d={path(f.line)}
            fill={surface(f) ? '#B9CDC4' : 'none'}
            stroke="#9DB8AD"
            strokeWidth={surface(f) ? 1.5 : 3.5}
            strokeLinejoin="round"
          />
        ))}
      {features
        .filter((f) => f.kind === 'street' || f.kind === 'path')
        .map((f) => (
          <path
            key={f.name}
            d={path(f.line)}
            fill="none"
            stroke={f.kind === 'street' ? '#FFFFFF' : '#7A5B3A'}
            strokeWidth={f.kind === 'street' ? 6 : 2}
            strokeDasharray={f.kind === 'path' ? '5 4' : undefined}
            strokeLinejoin="round"
            strokeLinecap="round"
          />
        ))}
      {features.map(
        ({ name: said, kind, line, label }) =>
          label && (
            <g key={said}>
              {kind === 'landmark' && (
                <rect
                  x={across(line[0]!.east) - 4}
                  y={down(line[0]!.north) - 4}
                  width="8"
                  height="8"
                  fill="#52605A"
                />
              )}
              <text
                x={across(label.east)}
                y={down(label.north) + (kind === 'landmark' ? 20 : 5)}
                textAnchor="middle"
                fill={kind === 'water' ? '#2F5548' : '#2E3531'}
                fontStyle={kind === 'water' ? 'italic' : 'normal'}
                stroke="#EAEDE2"
                strokeWidth="3"
                paintOrder="stroke"
              >
                {said}
              </text>
            </g>
          ),
      )}
      <g fill="#8A2F2B">
        <path d={`M${width / 2} ${height / 2} l -9 -17 a 10 10 0 1 1 18 0 Z`} />
        <circle cx={width / 2} cy={height / 2 - 21} r="3.6" fill="#FFFFFF" />
      </g>
      <g stroke="#2E3531" fill="none" strokeWidth="1.5">
        <path d={`M16 ${height - 16} v 6 h ${Math.round(rod * scale)} v -6`} transform="translate(0 -4)" />
        <path d={`M${width - 24} 40 v -24 m -6 8 l 6 -8 l 6 8`} />
      </g>
      <text x="20" y={height - 18} fill="#2E3531" fontSize="13px">
        {measured}
      </text>
    </chakra.svg>
  );
}
