import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { CoreError, type ErrorCode, errorCodes } from '../core/errors';
import { wordsFor } from '../web/messages';
import { statusOf, toAnswer } from '../server/errors';

const codes = Object.keys(errorCodes) as ErrorCode[];
const page = readFileSync(join(import.meta.dirname, '../docs/reference/errors.md'), 'utf8');
const listed = [...page.matchAll(/^\| `([^`]+)`/gm)].map((m) => m[1]);

describe('every error code', () => {
  it.each(codes)('%s has a status, words and a line in the reference', (code) => {
    expect(statusOf[code]).toBeGreaterThanOrEqual(400);
    expect(wordsFor(new CoreError(code)).length).toBeGreaterThan(10);
    expect(listed).toContain(code);
  });
  it('leaves no leftovers in the tables', () => {
    expect(Object.keys(statusOf).sort()).toEqual([...codes].sort());
    expect([...listed].sort()).toEqual([...codes].sort());
  });
});

describe('toAnswer', () => {
  it('keeps our own bugs to the log', () => {
    const { status, body } = toAnswer(new TypeError('secret path /root/x'));
    expect(status).toBe(500);
    expect(JSON.stringify(body)).not.toContain('secret');
  });
  it('hands on what a person can mend', () => {
    expect(toAnswer(new CoreError('crop/empty', 'No pixel.', { rect: 1 }))).toEqual({
      status: 422,
      body: { error: { code: 'crop/empty', message: 'No pixel.', details: { rect: 1 } } },
    });
  });
});
