import { useStrokes } from '../../../data/useStrokes';
import { FilesStage } from '../../files/FilesStage';
import { useBrandFiles } from '../../files/useBrandFiles';
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

function Room({ bench: { mark, draft, shown, brand, engine, grounds, values } }: BenchProps) {
  const strokes = useStrokes(engine.whole, values);
  const brandFiles = useBrandFiles();
  return <FilesStage {...{ mark, draft, engine, shown, strokes, brand, grounds, brandFiles }} />;
}
