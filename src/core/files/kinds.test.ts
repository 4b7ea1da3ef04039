import { expect, test } from 'vitest';
import { mediaTypeOf } from './kinds.ts';

const bytes = (text: string) => new TextEncoder().encode(text);

test('a file is what its name and its contents both say', () => {
  expect(mediaTypeOf('Map.PDF', bytes('%PDF-1.7 …'))).toBe('application/pdf');
  expect(mediaTypeOf('walk.gpx', bytes('<?xml version="1.0"?><gpx/>'))).toBe('application/gpx+xml');
  expect(mediaTypeOf('list.xlsx', Uint8Array.of(0x50, 0x4b, 3, 4, 0))).toContain('spreadsheetml');
  expect(mediaTypeOf('notes.txt', bytes('Bring boots – and a hat'))).toBe('text/plain');
});

test('a program under another name, a page, a script and an unknown kind are none', () => {
  expect(mediaTypeOf('map.pdf', bytes('MZ\u0090\u0000'))).toBeNull();
  expect(mediaTypeOf('map.pdf', bytes('<html><script>'))).toBeNull();
  expect(mediaTypeOf('notes.txt', bytes('#!/bin/sh\nrm -rf /'))).toBeNull();
  expect(mediaTypeOf('notes.txt', Uint8Array.of(0x7f, 0x45, 0x4c, 0x46, 0))).toBeNull();
  expect(mediaTypeOf('page.html', bytes('<p>'))).toBeNull();
  expect(mediaTypeOf('picture.svg', bytes('<svg/>'))).toBeNull();
  expect(mediaTypeOf('run.exe', bytes('MZ'))).toBeNull();
  expect(mediaTypeOf('map.pdf', new Uint8Array())).toBeNull();
});
