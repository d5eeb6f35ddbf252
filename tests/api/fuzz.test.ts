import { expect, it } from 'vitest';
import { fuzzRun } from '../support/fuzzRun';
import { createTestDatabase } from '../support/testDatabase';

// `npm run fuzz -- MINUTES` goes on for longer, with another seed each time.
it('changed files, odd recipes and odd bodies never break the server, nor another mark', async () => {
  const db = await createTestDatabase();
  try {
    const { faults, inputs, statuses } = await fuzzRun(db.config, 9_000, 71);
    expect(faults).toEqual([]);
    expect(inputs.files + inputs.recipes + inputs.bodies).toBeGreaterThan(80);
    // Some must be taken and some refused, else nothing was tried.
    expect(statuses[201]).toBeGreaterThan(5);
    expect(statuses[422]).toBeGreaterThan(5);
    expect(statuses[400]).toBeGreaterThan(5);
  } finally {
    await db.drop();
  }
});
