import { z } from 'zod';

/** mulberry32: a small generator whose numbers are the same everywhere. */
export function numbers(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), a | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

export interface Shape {
  type?: string | string[];
  properties?: Record<string, Shape>;
  required?: string[];
  items?: Shape;
  enum?: unknown[];
  const?: unknown;
  anyOf?: Shape[];
  oneOf?: Shape[];
  allOf?: Shape[];
  format?: string;
  pattern?: string;
  minimum?: number;
}

/** A value as its shape wants it. */
export function plain(
  shape: Shape,
  random: () => number,
  /** Ids of what is there. */
  known: readonly string[],
): unknown {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const options = shape.anyOf ?? shape.oneOf;
  if (options) return plain(pick(options), random, known);
  if (shape.const !== undefined) return shape.const;
  if (shape.enum) return pick(shape.enum);
  const type = Array.isArray(shape.type) ? pick(shape.type) : shape.type;
  if (type === 'object' || shape.properties)
    return Object.fromEntries(
      Object.entries(shape.properties ?? {})
        .filter(([k]) => shape.required?.includes(k) || random() < 0.6)
        .map(([k, of]) => [k, plain(of, random, known)]),
    );
  if (type === 'array')
    return Array.from({ length: Math.floor(random() * 3) }, () => plain(shape.items ?? {}, random, known));
  if (type === 'integer' || type === 'number') return pick([0, 1, 2, 5, 2500, shape.minimum ?? 3]);
  if (type === 'boolean') return random() < 0.5;
  if (type === 'null') return null;
  if (shape.format === 'uuid') return pick(known);
  if (shape.format === 'date') return pick(['2026-08-08', '1988-02-03']);
  if (shape.format === 'date-time') return '2026-08-08T12:00:00.000Z';
  if (shape.pattern?.startsWith('^(0[1-9]|1[0-2])')) return '12/29';
  if (shape.pattern?.includes('T(')) return '2026-08-08T09:00';
  return pick(['Sunniva', 'sunniva@harbourpost.example', 'open', 'fr', 'B0K 1A0', '12']);
}

export const shapeOf = (schema: z.ZodType | undefined): Shape =>
  schema ? (z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }) as Shape) : { type: 'object' };
