import type { CutOutFacts } from './cutOutFacts';
import { runFlatWay } from './flatWay';
import { cutOutParams } from './cutOutParams';
import { runKeepWay } from './keepWay';
import { runPaperWay } from './paperWay';
import { defineStage } from './stage';

/** Takes the mark off its ground or off paper, or keeps the transparency it came with. */
export const cutOut = defineStage({
  id: 'cutOut',
  version: 2,
  title: 'Cut out',
  // Taking a ground away is a matter of pixels; artwork with its own transparency is handed on as it came.
  keeps: (p) => (p.way === 'keep' ? 'paths' : 'pixels'),
  opened: (p) => ({ ...p, areas: [], enclosed: 'open' as const }),
  params: cutOutParams,
  run(input, p, ctx) {
    const run = { flat: runFlatWay, paper: runPaperWay, keep: runKeepWay }[p.way];
    return run(input, p, ctx) as ReturnType<typeof runKeepWay> & { facts: CutOutFacts };
  },
});
