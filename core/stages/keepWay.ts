import { type Rgb, hexFromRgb, rgbFromHex } from '../colour/hex';
import type { Finding } from '../findings/finding';
import { isOneColour } from '../inspect/inspectPicture';
import { fringeOf, takeFringe } from '../matte/takeFringe';
import { findExtents } from '../raster/extents';
import { type Raster, hasTransparency } from '../raster/raster';
import type { KeepWayFacts } from './cutOutFacts';
import type { Artwork } from '../artwork/artwork';
import type { StageResult } from './stage';

/** Artwork that is transparent already stays as it is, but for an old ground that is to go out of its edges. */
export function runKeepWay(
  input: Artwork,
  { oldGround }: { readonly oldGround: readonly string[] },
): StageResult & { facts: KeepWayFacts } {
  const isTaken = oldGround.length > 0 && !input.drawing;
  const artwork = isTaken ? { ...input, raster: takeFringe(input.raster, rgbFromHex(oldGround[0])) } : input;
  const findings = keepFindings(artwork.raster);
  const old = input.drawing || isTaken ? null : fringeOf(input.raster);
  if (old) findings.push(fringe(old));
  return { artwork, findings, facts: { way: 'keep' } };
}

function fringe(ground: Rgb): Finding {
  const [name, look, under] = ground[0] > 0 ? ['white', 'light', 'dark'] : ['black', 'dark', 'light'];
  return {
    id: 'fringe-kept',
    stage: 'cutOut',
    weight: 'risk',
    title: `${look} fringe in the edges`,
    detail:
      `The original came transparent, but its edges still hold a ${name} ground: ` +
      `on anything ${under} they show a ${look} rim.`,
    places: [],
    fixes: [{ label: `Take the ${name} out of its edges`, change: { oldGround: [hexFromRgb(ground)] } }],
  };
}

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
  if (isOneColour(raster, raster.data.subarray(0, 3)))
    return [
      {
        id: 'opaque-plate',
        stage,
        weight: 'note',
        title: 'a picture of one colour',
        detail: 'It has no background, so it stays opaque: a plate or a strip, which covers what it is laid on.',
        places: [],
      },
    ];
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
