import { useStrokes } from '../../../data/useStrokes';
import { FilesStage } from '../../files/FilesStage';
import type { BenchProps, TrailStage } from '../Bench';

export const filesStage: TrailStage = {
  id: 'files',
  title: 'Files',
  Room,
  bead: ({ recipe }) => ({ ground: 'plain', count: recipe.files.lines.length }),
  status: ({ recipe: { files } }) => (
    <span>{files.lines.length === 0 ? 'none yet' : `${files.lines.length} to make`}</span>
  ),
};

function Room({ bench: { mark, draft, shown, brand, engine, values } }: BenchProps) {
  const strokes = useStrokes(engine.whole, values);
  return <FilesStage mark={mark} draft={draft} shown={shown} strokes={strokes} brandName={brand.name} />;
}
