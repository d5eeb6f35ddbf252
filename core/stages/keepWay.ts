import type { Finding } from '../findings/finding';
import { findExtents } from '../raster/extents';
import { type Raster, hasTransparency } from '../raster/raster';
import type { KeepWayFacts } from './cutOutFacts';
import type { Artwork } from '../artwork/artwork';
import type { StageResult } from './stage';

/** Artwork that is transparent already stays as it is. */
export const runKeepWay = (input: Artwork): StageResult & { facts: KeepWayFacts } => ({
  artwork: input,
  findings: keepFindings(input.raster),
  facts: { way: 'keep' },
});

function keepFindings(raster: Raster): Finding[] {
  const stage = 'cutOut';
  if (!findExtents(raster))
    return [
      {
        id: 'nothing-left',
        stage,
        weight: 'fault',
        title: 'nothing is visible',
        detail: 'Every pixel of the original is see-through.',
        places: [],
      },
    ];
  if (hasTransparency(raster)) return [];
  return [
    {
      id: 'no-flat-ground',
      stage,
      weight: 'risk',
      title: 'no transparency',
      places: [],
      detail:
        'The original has no see-through pixel, so its ground stays. Pick the ground’s ' +
        'colour, or take the mark off as ink on paper.',
      fixes: [
        { label: 'Take it off as ink on paper', change: { way: 'paper' } },
        { label: 'Try a flat ground', change: { way: 'flat' } },
      ],
    },
  ];
}
