import { withDrawing } from '../artwork/artwork';
import { solidArtwork } from '../artwork/inkPlanes';
import { paintAll } from '../artwork/drawing';
import { choiceField, colourField } from '../params';
import { inOneColour } from '../layers/layers';
import { matteOf } from '../raster/raster';
import { defineFill } from './fill';
import { PEN, penField, penWords } from './penField';
import { alphaWithoutLight, shapesWithoutLight } from './lightAreas';

/** Every visible pixel, or every shape, in one colour, its transparency kept. */
export const oneColour = defineFill({
  id: 'oneColour',
  title: 'One colour',
  params: {
    colour: colourField({ label: 'Colour', initial: '#000000' }),
    insides: choiceField({
      label: 'Inner light areas',
      initial: 'open',
      hint: 'In one colour a solid white eye would vanish; open keeps it as a gap.',
      choices: [
        { value: 'open', label: 'Open' },
        { value: 'filled', label: 'Filled' },
      ],
    }),
    [PEN]: penField('solid'),
  },
  needsOpenMaster: (p) => p.insides === 'open',
  describe: (p) => `in one colour, ${p.colour}${penWords(p.pen, 'solid')}`,
  apply(own, p) {
    const artwork = p.pen === 'solid' ? solidArtwork(own) : own;
    const { drawing, raster } = artwork;
    const paint = { kind: 'colour', hex: p.colour } as const;
    const isOpen = p.insides === 'open';
    const cut = isOpen && drawing ? shapesWithoutLight(drawing) : null;
    if (drawing && cut) return withDrawing(artwork, paintAll({ ...drawing, shapes: cut }, paint));
    const alpha = (isOpen && !drawing ? alphaWithoutLight(raster) : null) ?? matteOf(raster).data;
    return {
      ...artwork,
      raster: inOneColour(raster, alpha, p.colour),
      drawing: drawing && paintAll(drawing, paint),
    };
  },
});
