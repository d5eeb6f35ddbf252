import { expect, it } from 'vitest';
import { whyOfFile, whyOfFinding, whyOfWall } from './why';

it.each(Object.entries({ ...whyOfFinding, ...whyOfFile, ...whyOfWall }))(
  'why %s matters is told in two sentences',
  (_, why) => {
    expect(why.match(/[.?](\s|$)/g)).toHaveLength(2);
    expect(why.length).toBeLessThan(280);
    expect(why).not.toMatch(/!|undefined/);
  },
);
